import { fifthsOf, pitchOnFifths, spelledPitch } from '../formats/score/pitch-spelling';
import { midiOf } from '../rhythm/pitch';
import type { Pitch } from '../schema/notation';
import type { Passage } from '../schema/passage';

/** The key that has so many fifths, by its usual signature: with at most six signs, of two the one on the side of where it came from. */
const usualFifths = (fifths: number, from: number): number => {
  const up = ((fifths % 12) + 12) % 12;
  if (up === 6) return from < 0 ? -6 : 6;
  return up > 6 ? up - 12 : up;
};

/** Whether a pitch can be written and sent. */
const isThere = ({ octave, ...pitch }: Pitch): boolean => {
  const midi = midiOf({ octave, ...pitch });
  return midi >= 0 && midi <= 127 && octave >= -1 && octave <= 9;
};

/**
 * A passage so many semitones higher, its keys and the spelling of its notes moved alike, so that every interval keeps its name; notes on
 * percussion staves stay. Null where a note would leave the range that can be written.
 */
export const transposed = (passage: Passage, semitones: number): Passage | null => {
  const from = passage.keys[0]?.fifths ?? 0;
  const shift = usualFifths(from + 7 * semitones, from) - from;
  const keys = passage.keys.map((key) => ({ ...key, fifths: usualFifths(key.fifths + shift, key.fifths) }));
  const moved = (pitch: Pitch): Pitch => {
    const midi = midiOf(pitch) + semitones;
    const named = pitchOnFifths(fifthsOf(pitch) + shift, midi);
    return named ?? spelledPitch(midi, from + shift);
  };
  const notes = passage.notes.map((note) =>
    note.pitch && passage.staves[note.staff - 1]?.clef !== 'percussion' ? { ...note, pitch: moved(note.pitch) } : note,
  );
  return notes.every(({ pitch }) => !pitch || isThere(pitch)) ? { ...passage, keys, notes } : null;
};
