import { z } from 'zod';
import { NameIdSchema } from './ids';
import { PracticeConfigKeySchema } from './practice-config';
import { TempoSchema } from './tempo';

/** What a take is played for: to get on, slowly on purpose, to warm up, or as music. Only the first says how fast it goes. */
export const PurposeSchema = z.enum(['work', 'slow', 'warm-up', 'musical']);

/** What a configuration was given on one day. */
export const PracticeDaySchema = PracticeConfigKeySchema.extend({
  /** By the calendar where the player is. */
  day: z.iso.date(),
  takes: z.number().int().min(0),
  repetitions: z.number().int().min(0),
  clean: z.number().int().min(0),
  /** From downbeat to downbeat, all repetitions together; and of those that were not slow for who played them. */
  playedS: z.number().min(0),
  fastS: z.number().min(0),
  /** Of it, what was played without a click. */
  withoutClickS: z.number().min(0).default(0),
  /** The first judged repetition of the day that was played straight, and whether it was clean. */
  openBpm: TempoSchema.nullable(),
  openClean: z.boolean().nullable(),
  bestCleanBpm: TempoSchema.nullable(),
});

/**
 * The step of a grid that stood out in a take: the note it begins with (from 1), of how many, and by how much. In which bar of what was
 * played that is, counted from 1; absent in what older versions stored.
 */
export const WeakSpotSchema = z.object({
  note: z.number().int().min(1),
  of: z.number().int().min(1),
  ms: z.number(),
  bar: z.number().int().min(1).optional(),
});

/** Days of practice in order, and for each configuration the newest weak spot among them. */
export const PracticeSchema = z.object({
  days: z.array(PracticeDaySchema),
  weak: z.array(PracticeConfigKeySchema.extend({ day: z.iso.date(), spot: WeakSpotSchema })),
});

/** All that a configuration was ever given, together. */
export const PracticeTotalsSchema = PracticeDaySchema.pick({
  takes: true,
  repetitions: true,
  clean: true,
  playedS: true,
  fastS: true,
});

/** Which days are asked for, as an address says it. */
export const PracticeQuerySchema = z.object({
  /** From this day on; all days where nothing is said. */
  from: z.iso.date().optional(),
  /** The last day, whole. */
  to: z.iso.date().optional(),
  passageId: NameIdSchema.optional(),
  /** All weak spots, not only the newest of each configuration. */
  every: z.stringbool().default(false),
});

export type PracticeQuery = z.infer<typeof PracticeQuerySchema>;
export type PracticeTotals = z.infer<typeof PracticeTotalsSchema>;
export type WeakSpot = z.infer<typeof WeakSpotSchema>;
export type Practice = z.infer<typeof PracticeSchema>;
export type Purpose = z.infer<typeof PurposeSchema>;
export type PracticeDay = z.infer<typeof PracticeDaySchema>;
