import { z } from 'zod';

/** A figure with its 95 % interval. */
export const EstimateSchema = z.object({ value: z.number(), low: z.number().nullable(), high: z.number().nullable() });
const Figure = EstimateSchema.nullable();

export const OnsetSchema = z.object({
  /** Seconds from the start of the recording. */
  timeS: z.number(),
  /** Level of the attack, dB relative to full scale. */
  levelDb: z.number(),
});

/** One expected note and what was played for it. */
export const NoteResultSchema = z.object({
  index: z.number().int(),
  expectedS: z.number(),
  onsetS: z.number().nullable(),
  /** Late positive, early negative; latency taken off where it is known. */
  deviationMs: z.number().nullable(),
  levelDb: z.number().nullable(),
});

/** The measures of one repetition; null where there is no value. Definitions: docs/measures.md. */
export const MeasuresSchema = z.object({
  placementMs: Figure,
  spreadMs: Figure,
  robustSpreadMs: z.number().nullable(),
  driftMsPerBeat: z.number().nullable(),
  driftPct: z.number().nullable(),
  unevennessPct: Figure,
  unevennessMs: Figure,
  npvi: z.number().nullable(),
  accuracyPct: z.number(),
  levelSpreadDb: z.number().nullable(),
  accentContrastDb: z.number().nullable(),
  missed: z.number().int(),
  extra: z.number().int(),
  hesitations: z.number().int(),
  stops: z.number().int(),
});

export type Onset = z.infer<typeof OnsetSchema>;
export type NoteResult = z.infer<typeof NoteResultSchema>;
export type Measures = z.infer<typeof MeasuresSchema>;
