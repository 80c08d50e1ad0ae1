import { z } from 'zod';

/** Exact beats as text, see rhythm/beats.ts. */
export const BeatsSchema = z.string().regex(/^-?\d+(\/[1-9]\d*)?$/, 'Write beats as a whole number or a fraction, like 3/2.');

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

/** One notated event: a note, or several notes struck together. Rests are simply the absence of events. */
export const NoteEventSchema = z.object({
  /** Position from the first downbeat; a pickup is negative. */
  at: BeatsSchema,
  /** Notated length. */
  length: BeatsSchema,
  /** MIDI note numbers; empty for a note without pitch. */
  pitches: z.array(z.number().int().min(0).max(127)),
  accent: z.boolean().optional(),
  hand: z.enum(['left', 'right']).optional(),
  /** For a chord of both hands: the hand of each pitch. */
  hands: z.array(z.enum(['left', 'right'])).optional(),
  finger: z.string().max(4).optional(),
});

export const ExerciseSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,64}$/),
  title: z.string().min(1).max(120),
  about: z.string().max(600),
  /** The time signature. */
  meter: z.object({
    count: z.number().int().min(1).max(32),
    unit: z.union([z.literal(2), z.literal(4), z.literal(8), z.literal(16)]),
  }),
  /** The note value that gets the click, as a fraction of a whole note: 1/4, 3/8. */
  beatUnit: BeatsSchema,
  /** Length of the pickup before the first downbeat, in beats; 0 for none. */
  pickup: BeatsSchema,
  /** Whole bars from the first downbeat to the end. */
  bars: z.number().int().min(1).max(64),
  events: z.array(NoteEventSchema).min(1).max(2000),
  /** A goal tempo that suits the exercise, to start from. */
  goalBpm: TempoSchema,
});

export type NoteEvent = z.infer<typeof NoteEventSchema>;
export type Exercise = z.infer<typeof ExerciseSchema>;
