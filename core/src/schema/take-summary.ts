import { z } from 'zod';
import { ReasonSchema } from './reason';
import { TempoSchema } from './tempo';

/** What a take leaves for tomorrow. */
export const TakeSummarySchema = z.object({
  bestCleanBpm: TempoSchema.nullable(),
  closingBpm: TempoSchema,
  nextStartBpm: TempoSchema,
  nextStartWhy: ReasonSchema,
});
export type TakeSummary = z.infer<typeof TakeSummarySchema>;
