import { SittingSchema, TakeSchema } from '@isochron/core';
import { z } from 'zod';

/** A take as it is kept in the browser until the server has it. */
export const UnsentTakeSchema = z.object({
  sitting: SittingSchema,
  take: TakeSchema,
  /** False while it is being played; a take found so at the next start was interrupted. */
  complete: z.boolean(),
});

export type UnsentTake = z.infer<typeof UnsentTakeSchema>;
