import { z } from 'zod';
import { BeatsSchema } from './ids';

/** A spelled pitch, as written: F sharp is not G flat. Middle C is C, 0, 4. */
export const PitchSchema = z.object({
  step: z.enum(['C', 'D', 'E', 'F', 'G', 'A', 'B']),
  alter: z.number().int().min(-2).max(2),
  octave: z.number().int().min(-1).max(9),
});

export const HandSchema = z.enum(['left', 'right']);

/** What a player writes beside a note. Labels of the measures come from here. */
export const MarksSchema = z.object({
  hand: HandSchema.optional(),
  finger: z.string().max(4).optional(),
  stick: z.string().max(4).optional(),
  stroke: z.enum(['up', 'down']).optional(),
  string: z.string().max(4).optional(),
  breath: z.boolean().optional(),
  /** Found difficult by the player. */
  difficult: z.boolean().optional(),
  /** Any other sign, in the player's own letters. */
  sign: z.string().max(8).optional(),
});

/** A time signature from a position on. */
export const MeterChangeSchema = z.object({
  at: BeatsSchema,
  count: z.number().int().min(1).max(32),
  unit: z.union([z.literal(1), z.literal(2), z.literal(4), z.literal(8), z.literal(16), z.literal(32)]),
});

/** A key signature from a position on: sharps positive, flats negative. */
export const KeyChangeSchema = z.object({ at: BeatsSchema, fifths: z.number().int().min(-7).max(7) });

export const ClefSchema = z.enum(['treble', 'bass', 'alto', 'tenor', 'soprano', 'mezzo-soprano', 'baritone', 'percussion']);

/** A staff, with the clef that it begins with. */
export const StaffSchema = z.object({ clef: ClefSchema });

export const ArticulationSchema = z.enum(['staccato', 'tenuto', 'staccatissimo', 'marcato']);
export const DynamicSchema = z.enum(['ppp', 'pp', 'p', 'mp', 'mf', 'f', 'ff', 'fff', 'sfz', 'fp']);

/** Ornaments; a buzz is a stroke of a stick that rebounds on, heard as one. */
export const OrnamentSchema = z.enum(['trill', 'mordent', 'inverted-mordent', 'turn', 'inverted-turn', 'buzz']);

/** What the page has at a note that is drawn and not measured. */
export const PrintedSchema = z.object({
  ornament: OrnamentSchema.optional(),
  fermata: z.boolean().optional(),
  /** A chord that is rolled from its lowest note up. */
  arpeggio: z.boolean().optional(),
  /** A chord symbol: Bbm7, D/F#. */
  chord: z.string().min(1).max(24).optional(),
  /** A syllable that is sung, with a hyphen where its word goes on. */
  syllable: z.string().min(1).max(40).optional(),
  /** The clef that it stands in, where that is not the one that its staff begins with. */
  clef: ClefSchema.optional(),
});

/** The first eighth of a beat against the second: a ratio, or the player's own. */
export const SwingSchema = z.union([z.literal('own'), z.number().min(1).max(4)]);

/** The same for a part of the music, which may also be straight where the rest swings. */
export const SectionSwingSchema = z.union([z.literal('straight'), SwingSchema]);

/** The frame that notes stand in, shared by passages and grids. */
export const FrameShape = {
  /** The note value that gets the beat, as a fraction of a whole note: 1/4, 3/8. */
  beatUnit: BeatsSchema,
  /** Length of the pickup before the first downbeat, in beats; 0 for none. */
  pickup: BeatsSchema,
  /** The first stands at 0; the others at bar lines. */
  meters: z.array(MeterChangeSchema).min(1).max(512),
  keys: z.array(KeyChangeSchema).min(1).max(512),
  staves: z.array(StaffSchema).min(1).max(2),
  /** Whole bars from the first downbeat to the end. */
  bars: z.number().int().min(1).max(2000),
  /** Semitones from the written pitch to the sounding one; absent where both are the same. */
  transposition: z.number().int().min(-36).max(36).optional(),
  /** How eighths swing: the first of a beat lasts so many times as long as the second, or as the player has it; straight where absent. */
  swing: SwingSchema.optional(),
};

export type Pitch = z.infer<typeof PitchSchema>;
export type Swing = z.infer<typeof SwingSchema>;
export type SectionSwing = z.infer<typeof SectionSwingSchema>;
export type Hand = z.infer<typeof HandSchema>;
export type Marks = z.infer<typeof MarksSchema>;
export type MeterChange = z.infer<typeof MeterChangeSchema>;
export type Articulation = z.infer<typeof ArticulationSchema>;
export type Dynamic = z.infer<typeof DynamicSchema>;
export type Clef = z.infer<typeof ClefSchema>;
export type Ornament = z.infer<typeof OrnamentSchema>;
export type Printed = z.infer<typeof PrintedSchema>;
