import { midiOf } from '../../rhythm/pitch';
import type { Pitch } from '../../schema/notation';

/** The steps in fifths, F first: where each stands on the line of fifths, C being 0. */
const FIFTHS: readonly Pitch['step'][] = ['F', 'C', 'G', 'D', 'A', 'E', 'B'];

/** The place of a spelled pitch on the line of fifths: C 0, G 1, F −1, F sharp 6, B flat −2. */
export const fifthsOf = ({ step, alter }: Pick<Pitch, 'step' | 'alter'>): number => FIFTHS.indexOf(step) - 1 + 7 * alter;

/** The pitch at a place of the line of fifths that sounds as a MIDI note number; null where that is not one, or would need three signs. */
export const pitchOnFifths = (fifths: number, midi: number): Pitch | null => {
  const step = FIFTHS[(((fifths + 1) % 7) + 7) % 7] as Pitch['step'];
  const alter = Math.floor((fifths + 1) / 7);
  const octave = (midi - midiOf({ step, alter, octave: 0 })) / 12;
  return Math.abs(alter) <= 2 && Number.isInteger(octave) ? { step, alter, octave } : null;
};

/**
 * A MIDI note number spelled as a key has it: the name that lies nearest to the middle of the key on the line of fifths, which gives a
 * major key its own seven notes, and sharps and flats on the side of the key (common practice).
 */
export const spelledPitch = (midi: number, fifths: number): Pitch => {
  // The seven notes of C major lie from −1 (F) to 5 (B): their middle is 2.
  const middle = fifths + 2;
  const candidates = [-2, -1, 0, 1, 2].flatMap((alter) =>
    FIFTHS.flatMap((step) => {
      const octave = Math.round((midi - alter - midiOf({ step, alter: 0, octave: -1 })) / 12) - 1;
      const pitch: Pitch = { step, alter, octave };
      return midiOf(pitch) === midi ? [pitch] : [];
    }),
  );
  return candidates.reduce((best, one) => {
    const near = Math.abs(fifthsOf(one) - middle);
    const nearest = Math.abs(fifthsOf(best) - middle);
    // Of two as near, the sharp in sharp keys and in C, the flat in flat ones.
    return near < nearest || (near === nearest && (fifths < 0 ? one.alter < best.alter : one.alter > best.alter)) ? one : best;
  });
};

/** The key that has so many fifths, by its usual signature: with at most six signs, of two the one on the side of where it came from. */
export const usualFifths = (fifths: number, from: number): number => {
  const up = ((fifths % 12) + 12) % 12;
  if (up === 6) return from < 0 ? -6 : 6;
  return up > 6 ? up - 12 : up;
};

/** A key so many semitones higher; an octave leaves it as it is. */
export const shiftedKey = (fifths: number, semitones: number): number =>
  semitones % 12 === 0 ? fifths : usualFifths(fifths + 7 * semitones, fifths);

/**
 * A pitch so many semitones higher, moved with its key, so that its interval keeps its name.
 *
 * @param fifths of the key that it leaves
 * @param shift in fifths, from that key to the one that it comes to
 */
export const shiftedPitch = (pitch: Pitch, semitones: number, fifths: number, shift: number): Pitch => {
  const midi = midiOf(pitch) + semitones;
  return pitchOnFifths(fifthsOf(pitch) + shift, midi) ?? spelledPitch(midi, fifths + shift);
};

/** How many semitones each step of a key signature is altered. */
export const keyAlters = (fifths: number): Record<Pitch['step'], number> => {
  const alters = { C: 0, D: 0, E: 0, F: 0, G: 0, A: 0, B: 0 };
  for (let k = 0; k < fifths; k += 1) alters[FIFTHS[k % 7] as Pitch['step']] += 1;
  for (let k = 0; k > fifths; k -= 1) alters[FIFTHS[(6 + k) % 7] as Pitch['step']] -= 1;
  return alters;
};
