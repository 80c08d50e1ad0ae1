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

/** A {@link Reason} in the making. */
export const makeReason = (code: string, values: Reason['values'] = {}): Reason => ({ code, values });
