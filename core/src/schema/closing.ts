import { z } from 'zod';
import { TempoSchema } from './tempo';
import { WhySchema } from './why';

/** What a take leaves for tomorrow. */
export const ClosingSchema = z.object({
  bestCleanBpm: TempoSchema.nullable(),
  closingBpm: TempoSchema,
  nextStartBpm: TempoSchema,
  nextStartWhy: WhySchema,
});
export type Closing = z.infer<typeof ClosingSchema>;
