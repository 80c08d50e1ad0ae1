import { maxIndex, minIndex, range } from 'd3-array';
import { shiftedChord } from '../formats/score/chord-symbols';
import { shiftedKey, shiftedPitch, usualFifths } from '../formats/score/pitch-spelling';
import { midiOf } from '../rhythm/pitch';
import type { Pitch } from '../schema/notation';
import type { Passage, PassageNote } from '../schema/passage';

/** Whether a pitch can be written and sent. */
const isThere = ({ octave, ...pitch }: Pitch): boolean => {
  const midi = midiOf({ octave, ...pitch });
  return midi >= 0 && midi <= 127 && octave >= -1 && octave <= 9;
};

/** A note without pitch, and a drum, are where they are in every key. */
const isMoved = ({ staves }: Passage, { pitch, staff }: PassageNote): boolean =>
  pitch !== null && staves[staff - 1]?.clef !== 'percussion';

/** By how many semitones, up to an octave, a passage can be moved: its lowest and its highest note tell. */
export const transpositions = (passage: Passage): number[] => {
  const pitched = passage.notes.filter((note) => isMoved(passage, note));
  const heights = pitched.map(({ pitch }) => midiOf(pitch as Pitch));
  const ends = [minIndex(heights), maxIndex(heights)].flatMap((at) => pitched[at] ?? []);
  return range(-12, 13).filter((semitones) => semitones !== 0 && transposed({ ...passage, notes: ends }, semitones) !== null);
};

/**
 * A passage so many semitones higher, its keys and the spelling of its notes moved alike, so that every interval keeps its name; notes on
 * percussion staves stay. Null where a note would leave the range that can be written.
 */
export const transposed = (passage: Passage, semitones: number): Passage | null => {
  const from = passage.keys[0]?.fifths ?? 0;
  const shift = shiftedKey(from, semitones) - from;
  const keys = passage.keys.map((key) => ({ ...key, fifths: usualFifths(key.fifths + shift, key.fifths) }));
  const notes = passage.notes.map((note) => {
    const moved =
      note.pitch && isMoved(passage, note) ? { ...note, pitch: shiftedPitch(note.pitch, semitones, from, shift) } : note;
    const chord = note.printed?.chord;
    return chord ? { ...moved, printed: { ...moved.printed, chord: shiftedChord(chord, semitones, from, shift) } } : moved;
  });
  return notes.every(({ pitch }) => !pitch || isThere(pitch)) ? { ...passage, keys, notes } : null;
};
