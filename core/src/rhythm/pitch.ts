import { type Pitch, PitchSchema } from '../schema/notation';

/** The names of the notes, from C up. */
export const STEPS = PitchSchema.shape.step.options;

const SEMITONES: Record<Pitch['step'], number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** The MIDI note number of a spelled pitch: middle C (C, 0, 4) is 60. */
export const midiOf = ({ step, alter, octave }: Pitch): number => 12 * (octave + 1) + SEMITONES[step] + alter;

const PATTERN = /^([A-G])(##|#|bb|b)?(-?\d)$/;
const ALTERS: Record<string, number> = { '##': 2, '#': 1, b: -1, bb: -2 };

/** Reads a pitch written like F#4 or Bb3. Throws on anything else: for material in code. */
export const pitch = (text: string): Pitch => {
  const [, step, sign, octave] = PATTERN.exec(text) ?? [];
  if (!step || !octave) throw new Error(`not a pitch: ${text}`);
  return { step: step as Pitch['step'], alter: sign ? (ALTERS[sign] as number) : 0, octave: Number(octave) };
};
