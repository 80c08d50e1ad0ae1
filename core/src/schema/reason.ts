import { z } from 'zod';

/**
 * Why something was decided: a code with its numbers and names. No sentence is stored; core/src/words makes it for the
 * reader. `words` is only there in what versions before the third stored: their own sentence.
 */
export const ReasonSchema = z.object({
  code: z.string(),
  values: z.record(z.string(), z.union([z.number(), z.string()])).default({}),
  words: z.string().optional(),
});
export type Reason = z.infer<typeof ReasonSchema>;

/** Every code that a reason may be made of, with the dictionary that has its sentence. Each dictionary in core/src/words adds its own. */
// biome-ignore lint/suspicious/noEmptyInterface: it is empty here, so that no sentence is needed to read what is stored.
export interface ReasonCatalogue {}
export type ReasonCode = keyof ReasonCatalogue;

/** A {@link Reason} in the making: a code without a sentence does not compile. */
export const makeReason = (code: ReasonCode, values: Reason['values'] = {}): Reason => ({ code, values });
