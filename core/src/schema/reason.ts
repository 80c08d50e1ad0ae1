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

/** What the sentence of a code is made of; of a code that is one of several, what all of their sentences are made of. */
export type ReasonValues<Code extends ReasonCode> = (
  Code extends ReasonCode
    ? (given: ReasonCatalogue[Code]['given']) => void
    : never
) extends (given: infer Given) => void
  ? Given
  : never;

/** Values as an argument that may be left out where none is needed. */
export type ValuesArgument<Values> = Record<never, never> extends Values ? [Values?] : [Values];

/** A {@link Reason} in the making: a code without a sentence, a value that its sentence does not know or one that it lacks does not compile. */
export const makeReason = <Code extends ReasonCode>(code: Code, ...[values]: ValuesArgument<ReasonValues<Code>>): Reason => ({
  code,
  values: { ...(values as Reason['values'] | undefined) },
});
