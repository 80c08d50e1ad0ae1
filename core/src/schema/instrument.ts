import { z } from 'zod';
import { NameIdSchema } from './ids';
import { PitchSchema, StaffSchema } from './notation';

/** The kinds of marks that a player writes beside notes. */
export const MarkKindSchema = z.enum(['finger', 'hand', 'stick', 'stroke', 'string', 'breath', 'sign', 'difficult']);

/** An instrument of the player: how its music is written, where it sounds, and what is marked in it. Pitches are as written. */
export const InstrumentSchema = z.object({
  id: NameIdSchema,
  name: z.string().min(1).max(60),
  /** The profile of its sound, see signal/profiles. */
  profileId: z.string(),
  clefs: z.array(StaffSchema.shape.clef).min(1).max(2),
  /** Semitones from the written pitch to the sounding one. */
  transposition: z.number().int().min(-36).max(36),
  lowest: PitchSchema,
  highest: PitchSchema,
  /** As they lie side by side, mostly from the lowest to the highest; empty for an instrument without strings. */
  strings: z.array(z.object({ name: z.string().min(1).max(4), pitch: PitchSchema })).max(8),
  marks: z.array(MarkKindSchema).min(1),
});

export type MarkKind = z.infer<typeof MarkKindSchema>;
export type MusicalInstrument = z.infer<typeof InstrumentSchema>;
