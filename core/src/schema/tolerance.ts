import { z } from 'zod';

/**
 * The limits of a verdict, in one place. Stored with each take, so that an old verdict can be explained.
 * Nothing is finer than ears can hear: the just noticeable difference in an even sequence is about 2.5 % of the interval
 * from 240 ms to 1 s and about 6 ms below 240 ms (Friberg & Sundberg, JASA 98, 1995).
 */
export const ToleranceSchema = z.object({
  preset: z.enum(['settling', 'secure', 'polished', 'meticulous', 'own']),
  /** Half-width of the window as a share of the notated interval. */
  windowShare: z.number().min(0.025).max(0.4),
  /** The window is never narrower than this. */
  windowFloorMs: z.number().min(6).max(60),
  accuracyPct: z.number().min(50).max(100),
  driftPct: z.number().min(0.2).max(10),
  accentContrastDb: z.number().min(1).max(20),
  /** A repetition is broken when more than this share of its notes is missed or extra. */
  brokenShare: z.number().min(0.05).max(0.5),
  /** Whether placement outside the window fails a repetition. Needs a calibrated input. */
  placementCounts: z.boolean(),
  /** Whether a note of another pitch counts as missed, where the instrument's pitch can be heard. */
  pitchCounts: z.boolean().default(false),
  /** The same for an instrument that sends its notes: there a wrong one is sure. */
  pitchCountsMidi: z.boolean().default(true),
});

export type Tolerance = z.infer<typeof ToleranceSchema>;
export type TolerancePreset = Exclude<Tolerance['preset'], 'own'>;

const common = {
  accuracyPct: 95,
  driftPct: 1,
  accentContrastDb: 3,
  brokenShare: 0.1,
  placementCounts: false,
  pitchCounts: false,
  pitchCountsMidi: true,
};

/** The ready-made tolerances, widest first. */
export const TOLERANCE_PRESETS: Record<TolerancePreset, Tolerance> = {
  settling: { preset: 'settling', windowShare: 0.15, windowFloorMs: 18, ...common },
  secure: { preset: 'secure', windowShare: 0.1, windowFloorMs: 12, ...common },
  polished: { preset: 'polished', windowShare: 0.06, windowFloorMs: 8, ...common },
  meticulous: { preset: 'meticulous', windowShare: 0.04, windowFloorMs: 6, ...common },
};
