import { z } from 'zod';

/** A figure with its 95 % interval. */
export const EstimateSchema = z.object({ value: z.number(), low: z.number().nullable(), high: z.number().nullable() });
const Figure = EstimateSchema.nullable();

/** What the ear says of a note besides its time; absent where the input is no sound. */
const HeardShape = {
  /** How sure it is that this is a note, 0…1, and how far off its time may be (standard deviation). */
  confidence: z.number().optional(),
  errorMs: z.number().optional(),
  /** From its first attack to a second one, where it was struck twice within a few hundredths of a second. */
  doubleAttackMs: z.number().optional(),
  /** How far that is beyond what counts (natural log-odds), before it was held against the other notes; not kept. */
  doubledOdds: z.number().optional(),
  /** How far its sound had fallen by the time of the next note. */
  fadeDb: z.number().optional(),
};

/** One note that sounded. */
export const SingleOnsetSchema = z.object({
  /** Seconds from the start of the recording. */
  timeS: z.number(),
  /** Level of the attack, dB relative to full scale. */
  levelDb: z.number(),
  /** MIDI note number, with fractions where it was heard; absent where it has no clear pitch. */
  pitch: z.number().optional(),
  /** When it was let go, where the input says so. */
  offS: z.number().optional(),
  ...HeardShape,
});

/** An onset; a chord keeps its notes as members and lies at their mean. */
export const OnsetSchema = SingleOnsetSchema.extend({ members: z.array(SingleOnsetSchema).optional() });

/** One expected note and what was played for it. */
export const NoteResultSchema = z.object({
  index: z.number().int(),
  expectedS: z.number(),
  onsetS: z.number().nullable(),
  /** Late positive, early negative; latency taken off where it is known. */
  deviationMs: z.number().nullable(),
  levelDb: z.number().nullable(),
  /** What was heard of its pitch, where that was looked at: deviation in cents, and whether it was another note. */
  cents: z.number().nullable().optional(),
  wrongPitch: z.boolean().optional(),
  /** The onset as it came in, where it brought more than a time and a level. */
  pitch: z.number().optional(),
  offS: z.number().optional(),
  ...HeardShape,
  members: z.array(SingleOnsetSchema).optional(),
});

/** How a repetition was played, where that was not as asked; `note` is the one played again or waited for, counted from 0. */
export const PlayedAsSchema = z.object({
  kind: z.enum(['half-tempo', 'double-tempo', 'first-bar', 'stumble', 'played-on']),
  note: z.number().int().min(0).optional(),
});

/**
 * Where the player stopped: the first note that was not played any more, counted from 0, of how many, and its bar as it is played, from 1.
 * Where the take was ended by hand there, that says nothing about the place.
 */
export const BrokenOffSchema = z.object({
  note: z.number().int().min(1),
  of: z.number().int().min(1),
  bar: z.number().int().min(1),
  byHand: z.literal(true).optional(),
});

/** The measures of one repetition; null where there is no value. Definitions: docs/measures.md. */
export const MeasuresSchema = z.object({
  placementMs: Figure,
  spreadMs: Figure,
  robustSpreadMs: z.number().nullable(),
  driftMsPerBeat: z.number().nullable(),
  driftPct: z.number().nullable(),
  /** The 95 % interval of the drift, in % of the tempo; absent in what older versions measured. */
  driftRangePct: z.object({ low: z.number(), high: z.number() }).nullable().optional(),
  /** Spread and accuracy about the trend: how steady it was for itself, however it dragged or rushed. */
  steadySpreadMs: Figure.optional(),
  steadySpreadShare: Figure.optional(),
  steadyAccuracyPct: z.number().nullable().optional(),
  /** Where the notes moved at once, later positive: from which one on, and how steady it was apart from that; absent where they did not. */
  jump: z
    .object({
      note: z.number().int().min(0),
      byMs: z.number(),
      spreadShare: z.number(),
      accuracyPct: z.number(),
    })
    .optional(),
  unevennessPct: Figure,
  unevennessMs: Figure,
  npvi: z.number().nullable(),
  accuracyPct: z.number(),
  /**
   * Spread and unevenness with each note as a share of its own window, which is what is held against the limits (0.5 is just allowed), and
   * the deviation about which notes are judged; absent in what older versions measured.
   */
  spreadShare: Figure.optional(),
  unevennessShare: Figure.optional(),
  centreMs: z.number().nullable().optional(),
  /** How much of what the tolerance allows the unsteadiness took: 1 is just allowed. Absent in what older versions measured. */
  toleranceUsage: z.number().nullable().optional(),
  /** How many times as long as its second half the first half of a swung beat was; absent where nothing swings, or too few notes tell. */
  swing: Figure.optional(),
  levelSpreadDb: z.number().nullable(),
  accentContrastDb: z.number().nullable(),
  /** How far it lay from the take's other level, on the side that was asked; absent where there was none. */
  dynamicDb: z.number().optional(),
  missed: z.number().int(),
  extra: z.number().int(),
  /** Absent where it was played as asked. */
  playedAs: PlayedAsSchema.optional(),
  /** Measured as far as it went; absent where it was played to its end. */
  brokenOff: BrokenOffSchema.optional(),
  hesitations: z.number().int(),
  stops: z.number().int(),
  /** Notes of another pitch than the expected one; absent where pitch was not looked at. */
  wrongNotes: z.number().int().optional(),
  /** Mean sounding share of the interval, %: staccato is small, legato near 100. */
  articulationPct: z.number().nullable().optional(),
  /** Mean time from the first to the last note of a chord. */
  chordSpreadMs: z.number().nullable().optional(),
  /** Mean time of the right hand against the left in chords: negative where the right hand leads. */
  rightHandMs: z.number().nullable().optional(),
  /** Held notes that were let go before the others were done; absent where none had to be held. */
  letGo: z.number().int().optional(),
  /** Mean deviation where the click returned, against before it fell silent; absent where it did not. */
  returnMs: z.number().nullable().optional(),
  /** For groups with pauses: the spread of the groups' first notes, and of the notes inside about their group's own placement. */
  groupStartsMs: z.number().nullable().optional(),
  insideMs: z.number().nullable().optional(),
  /** Of a sweep: the tempo at which evenness left its floor, with its 90 % interval; null where it did not. */
  breakBpm: Figure.optional(),
  /** And the notes of the passage that went first there, counted from 0, worst first; absent where none stood out. */
  wentFirst: z.array(z.number().int().min(0)).max(4).optional(),
  /** The detector's own noise, taken off spread and unevenness in quadrature. */
  noiseMs: z.number().optional(),
  /** How many of the notes the ear was not sure of; absent where the input is no sound. */
  unsure: z.number().int().optional(),
  /** Notes that were struck twice within a few hundredths of a second; of a sweep, the tempo from which on they came. */
  doubled: z.number().int().optional(),
  doubledBpm: z.number().nullable().optional(),
});

/** The keys of what the ear says of a note. */
export const HEARD_KEYS = Object.keys(HeardShape) as (keyof typeof HeardShape)[];

export type SingleOnset = z.infer<typeof SingleOnsetSchema>;
export type Onset = z.infer<typeof OnsetSchema>;
export type NoteResult = z.infer<typeof NoteResultSchema>;
export type BrokenOff = z.infer<typeof BrokenOffSchema>;
export type PlayedAs = z.infer<typeof PlayedAsSchema>;
export type Measures = z.infer<typeof MeasuresSchema>;
