import { keyAlters, spelledPitch } from '../formats/score/pitch-spelling';
import { midiOf, STEPS, stepsUp } from '../rhythm/pitch';
import { beats } from '../schema/beats';
import { fifthsAt } from '../schema/frame';
import type { Pitch } from '../schema/notation';
import type { Passage, PassageNote } from '../schema/passage';

/** By how much a note is moved: to the next step of its key, or by a semitone. */
export type NoteMove = 'step up' | 'step down' | 'semitone up' | 'semitone down';

const movedPitch = (pitch: Pitch, move: NoteMove, fifths: number): Pitch => {
  const way = move.endsWith('up') ? 1 : -1;
  if (move.startsWith('step')) {
    const place = stepsUp(pitch) + way;
    const step = STEPS[((place % 7) + 7) % 7] as Pitch['step'];
    return { step, octave: Math.floor(place / 7), alter: keyAlters(fifths)[step] };
  }
  const alter = pitch.alter + way;
  return Math.abs(alter) <= 1 ? { ...pitch, alter } : spelledPitch(midiOf(pitch) + way, fifths);
};

/** The note with those that it is tied to, forward and back. */
const tiedWith = (notes: readonly PassageNote[], note: PassageNote): Set<string> => {
  const sounds = ({ pitch }: PassageNote) => (pitch ? midiOf(pitch) : null);
  const isOfLine = (one: PassageNote) =>
    one.staff === note.staff && one.voice === note.voice && !one.grace && sounds(one) === sounds(note);
  const line = notes.filter(isOfLine);
  const ends = (one: PassageNote) => beats(one.at).add(beats(one.length));
  const found = new Set([note.id]);
  for (let size = 0; size !== found.size; ) {
    size = found.size;
    for (const one of line)
      for (const other of line)
        if (one.tie && ends(one).equals(beats(other.at)) && found.has(one.id) !== found.has(other.id))
          for (const { id } of [one, other]) found.add(id);
  }
  return found;
};

/** A passage with one of its notes, and those that it is tied to, at a pitch; as it is where that is beyond what can be written. */
const withPitch = (passage: Passage, note: PassageNote, pitch: Pitch): Passage => {
  const midi = midiOf(pitch);
  if (midi < 0 || midi > 127 || pitch.octave < -1 || pitch.octave > 9) return passage;
  const moved = tiedWith(passage.notes, note);
  return { ...passage, notes: passage.notes.map((one) => (moved.has(one.id) ? { ...one, pitch } : one)) };
};

/**
 * A passage in which one of its notes, with those that it is tied to, sounds as another pitch, spelled as its key has it.
 *
 * @param midi as it sounds; a transposing instrument has it written elsewhere
 */
export const withNotePitch = (passage: Passage, noteId: string, midi: number): Passage => {
  const note = passage.notes.find(({ id }) => id === noteId);
  if (!note) return passage;
  return withPitch(passage, note, spelledPitch(midi - (passage.transposition ?? 0), fifthsAt(passage, beats(note.at))));
};

/**
 * A passage with one of its notes, and those that it is tied to, moved; as it is where the note has no pitch or would leave what can be
 * written.
 */
export const withNoteMoved = (passage: Passage, noteId: string, move: NoteMove): Passage => {
  const note = passage.notes.find(({ id }) => id === noteId);
  if (!note?.pitch) return passage;
  return withPitch(passage, note, movedPitch(note.pitch, move, fifthsAt(passage, beats(note.at))));
};
