import { z } from 'zod';

/**
 * Why something was decided: a code with its numbers and names. No sentence is stored; core/src/words makes it for the
 * reader. `words` is only there in what versions before the third stored: their own sentence.
 */
export const WhySchema = z.object({
  code: z.string(),
  values: z.record(z.string(), z.union([z.number(), z.string()])).default({}),
  words: z.string().optional(),
});
export type Why = z.infer<typeof WhySchema>;

/** A {@link Why} in the making. */
export const why = (code: string, values: Why['values'] = {}): Why => ({ code, values });
