import { z } from 'zod';
import { PlanBlockSchema } from './day-plan';

/** One thing that is practised in a run of blocks, and how long. */
export const RunBlockSchema = PlanBlockSchema.omit({ id: true });

/** Blocks that are played one after the other without a hand on the computer. Moments and lengths in ms. */
export const SessionRunSchema = z.object({
  blocks: z.array(RunBlockSchema).min(1).max(60),
  index: z.number().int().min(0),
  beganAtMs: z.number().default(0),
  /** Spent in the block at work before it was last gone on with; below 0 while a break before it lasts. */
  spentMs: z.number(),
  /** When it was gone on with; null while it is paused. */
  resumedAtMs: z.number().nullable(),
});

export type RunBlock = z.infer<typeof RunBlockSchema>;
export type SessionRun = z.infer<typeof SessionRunSchema>;
