import { z } from 'zod';

/** The tempo range that the app accepts, in beats per minute. */
export const TEMPO_RANGE_BPM = { min: 10, max: 400 } as const;

export const TempoSchema = z
  .number({ message: 'A tempo is a number of beats per minute.' })
  .min(
    TEMPO_RANGE_BPM.min,
    `A tempo below ${TEMPO_RANGE_BPM.min} beats per minute cannot be clicked usefully. Choose ${TEMPO_RANGE_BPM.min} or more.`,
  )
  .max(
    TEMPO_RANGE_BPM.max,
    `A tempo above ${TEMPO_RANGE_BPM.max} beats per minute is faster than anyone plays. Choose ${TEMPO_RANGE_BPM.max} or less.`,
  );

/** One tempo throughout. */
export const ConstantTempoSchema = z.object({ kind: z.literal('constant'), bpm: TempoSchema });

/**
 * Tempos at positions (beats from the first downbeat), straight between them, level outside: a sweep has two points, an arc
 * four.
 */
export const RampTempoSchema = z.object({
  kind: z.literal('ramp'),
  points: z
    .array(z.object({ beat: z.number(), bpm: TempoSchema }))
    .min(1)
    .max(64)
    .refine((points) => points.every((point, k) => k === 0 || point.beat > (points[k - 1]?.beat ?? 0)), {
      message: 'The points of a ramp follow one another in time.',
    }),
});

/** Times that ascend, each later than the one before. */
export const ascending = (times: readonly number[]): boolean => times.every((time, k) => k === 0 || time > (times[k - 1] ?? 0));

/** Most beats that one repetition, or one recording, may have. */
export const MAX_BEATS = 20_000;

/** Beats that someone played: the time of each from the first downbeat, in seconds, level beyond them. */
export const BeatsTempoSchema = z.object({
  kind: z.literal('beats'),
  timesS: z.array(z.number()).min(2).max(MAX_BEATS).refine(ascending, { message: 'Beats follow one another in time.' }),
  /** How far single beats lie off an even pulse, as a standard deviation. */
  unsteadinessMs: z.number().min(0),
});

/** A tempo map as it is stored: what time/tempo-map.ts opens. */
export const TempoMapSchema = z.discriminatedUnion('kind', [ConstantTempoSchema, RampTempoSchema, BeatsTempoSchema]);
export type TempoMapDocument = z.infer<typeof TempoMapSchema>;
