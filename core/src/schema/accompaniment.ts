import { z } from 'zod';
import { MomentSchema } from './ids';
import { ascending, MAX_BEATS } from './tempo';

/** No sound to play along with is larger, or longer: it is taken into memory whole. */
export const LARGEST_ACCOMPANIMENT_BYTES = 300_000_000;
export const LONGEST_ACCOMPANIMENT_S = 20 * 60;

const TimesSchema = z.array(z.number().min(0)).refine(ascending, { message: 'Times follow one another.' });

/** Where the beats of a recording are. Times in seconds from its start. */
export const BeatsOfSchema = z.object({
  timesS: TimesSchema.max(MAX_BEATS),
  /** What was heard to begin in it: taps and corrections are moved to these. */
  onsetsS: TimesSchema.max(200_000),
  /** How many of the beats, 0…1, have an onset within reach, as they were found; null where the player placed them all. */
  support: z.number().min(0).max(1).nullable(),
  beatsPerBar: z.number().int().min(1).max(12),
  /** The first beat, counted from 0, that begins a bar. */
  firstBarBeat: z.number().int().min(0).max(11),
});

/** A recording of the player's own to play along with. Its sound is stored beside it, as it was brought. */
export const AccompanimentSchema = z.object({
  id: z.uuid(),
  revision: z.number().int().min(0),
  title: z.string().min(1).max(200),
  addedAt: MomentSchema,
  lengthS: z
    .number()
    .positive()
    .max(
      LONGEST_ACCOMPANIMENT_S,
      'The recording is longer than 20 minutes. Keep only the part you want to play with, and try again.',
    ),
  /** Null until they have been looked for. */
  beats: BeatsOfSchema.nullable(),
});

/** As a list shows it. */
export const AccompanimentSummarySchema = AccompanimentSchema.pick({
  id: true,
  title: true,
  addedAt: true,
  lengthS: true,
}).extend({
  /** Mean tempo; null where no beats are known. */
  bpm: z.number().nullable(),
  /** The first beat that begins a bar. */
  firstBarBeat: z.number().int().min(0),
});

export type BeatsOf = z.infer<typeof BeatsOfSchema>;
export type Accompaniment = z.infer<typeof AccompanimentSchema>;
export type AccompanimentSummary = z.infer<typeof AccompanimentSummarySchema>;
