import { PracticeSessionSchema, TakeSchema } from '@isochron/core/schema';
import { z } from 'zod';

/** A take as it is kept in the browser until the server has it. */
export const UnsentTakeSchema = z.object({
  session: PracticeSessionSchema,
  take: TakeSchema,
  /** False while it is being played; a take found so at the next start was interrupted. */
  complete: z.boolean(),
  /** Why the server did not accept it; empty while it was not refused. */
  refused: z.string().default(''),
});

export type UnsentTake = z.infer<typeof UnsentTakeSchema>;
/** What may be kept: a take that was never refused need not say so. */
export type KeptTake = z.input<typeof UnsentTakeSchema>;
