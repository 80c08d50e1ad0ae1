import { type Pitch, PitchSchema } from '../schema/notation';

/** The names of the notes, from C up. */
export const STEPS = PitchSchema.shape.step.options;

const SEMITONES: Record<Pitch['step'], number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** The MIDI note number of a spelled pitch: middle C (C, 0, 4) is 60. */
export const midiOf = ({ step, alter, octave }: Pitch): number => 12 * (octave + 1) + SEMITONES[step] + alter;

const PATTERN = /^([A-G])(##|#|bb|b)?(-?\d)$/;
const ALTERS: Record<string, number> = { '##': 2, '#': 1, b: -1, bb: -2 };
const SIGNS: Record<number, string> = { [-2]: 'bb', [-1]: 'b', 0: '', 1: '#', 2: '##' };

/** How far a typed accidental alters; 0 for none. */
export const alterOf = (sign: string | undefined): number => ALTERS[sign ?? ''] ?? 0;

/** An accidental as it is typed; nothing for a plain note. */
export const signOf = (alter: number): string => SIGNS[alter] ?? '';

/** Steps of the scale, all octaves counted through from C0. */
export const stepsUp = ({ step, octave }: Pick<Pitch, 'step' | 'octave'>): number => 7 * octave + STEPS.indexOf(step);

/** Reads a pitch written like F#4 or Bb3. Throws on anything else: for material in code. */
export const pitch = (text: string): Pitch => {
  const [, step, sign, octave] = PATTERN.exec(text) ?? [];
  if (!step || !octave) throw new Error(`not a pitch: ${text}`);
  return { step: step as Pitch['step'], alter: alterOf(sign), octave: Number(octave) };
};
