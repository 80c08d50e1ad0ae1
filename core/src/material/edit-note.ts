import type Fraction from 'fraction.js';
import { midiOf, STEPS } from '../rhythm/pitch';
import { beats, writeBeats } from '../schema/beats';
import { barStarts } from '../schema/frame';
import type { Articulation, Pitch } from '../schema/notation';
import type { Passage, PassageNote } from '../schema/passage';
import { endOf, isSameLine, withoutLooseEnds } from './loose-ends';

/** What is done to a note, or to the chord that it belongs to. */
export type NoteEdit = 'longer' | 'shorter' | 'tie' | 'accent' | 'staccato' | 'tenuto' | 'respell' | 'rest';

/** Values that a note may be given one after the other, in whole notes: plain ones and dotted ones between. */
const VALUES = ['1/64', '1/32', '3/64', '1/16', '3/32', '1/8', '3/16', '1/4', '3/8', '1/2', '3/4', '1', '3/2'].map((one) =>
  beats(one),
);

const isChord = (a: PassageNote, b: PassageNote): boolean => isSameLine(a, b) && beats(a.at).equals(beats(b.at));

/** The value before or after a length; undefined where it is none of them, as in a group of three. */
const neighbour = (length: Fraction, by: 1 | -1): Fraction | undefined => {
  const at = VALUES.findIndex((value) => value.equals(length));
  return at < 0 ? undefined : VALUES[at + by];
};

const withLength = (passage: Passage, note: PassageNote, by: 1 | -1): Passage => {
  const unit = beats(passage.beatUnit);
  const value = neighbour(beats(note.length).mul(unit), by);
  if (!value) return passage;
  const at = beats(note.at);
  const stop = at.add(value.div(unit));
  const barEnd = barStarts(passage).find((start) => start.compare(at) > 0);
  if (!barEnd || stop.compare(barEnd) > 0) return passage;
  const end = endOf(note);
  // A longer note takes the time of what follows in its line.
  const notes = passage.notes.flatMap((one): PassageNote[] => {
    if (!isSameLine(one, note)) return [one];
    if (isChord(one, note)) return [one.grace ? one : { ...one, length: writeBeats(value.div(unit)) }];
    const start = beats(one.at);
    if (start.compare(end) < 0 || start.compare(stop) >= 0) return [one];
    const left = endOf(one).sub(stop);
    return left.compare(0) > 0 ? [{ ...one, at: writeBeats(stop), length: writeBeats(left) }] : [];
  });
  return withoutLooseEnds({ ...passage, notes });
};

const withTie = (passage: Passage, note: PassageNote): Passage => {
  const midi = note.pitch && midiOf(note.pitch);
  const next = passage.notes.find(
    (one) =>
      !one.grace &&
      isSameLine(one, note) &&
      beats(one.at).equals(endOf(note)) &&
      (one.pitch ? midiOf(one.pitch) === midi : midi === null),
  );
  if (!next) return passage;
  const notes = passage.notes.map((one): PassageNote => {
    const { tie, ...rest } = one;
    if (one.id === note.id) return tie ? rest : { ...rest, tie: true };
    // Of two spellings the first holds.
    return one.id === next.id ? { ...one, pitch: note.pitch } : one;
  });
  return withoutLooseEnds({ ...passage, notes });
};

/** The spellings of a pitch with one sign at most, in the order of their letters. */
const spellings = (pitch: Pitch): Pitch[] => {
  const midi = midiOf(pitch);
  return [pitch.octave - 1, pitch.octave, pitch.octave + 1].flatMap((octave) =>
    STEPS.flatMap((step) => {
      const alter = midi - midiOf({ step, alter: 0, octave });
      return Math.abs(alter) <= 1 ? [{ step, alter, octave }] : [];
    }),
  );
};

const respelled = (passage: Passage, note: PassageNote): Passage => {
  if (!note.pitch) return passage;
  const { step } = note.pitch;
  const all = spellings(note.pitch);
  const pitch = all[(all.findIndex((one) => one.step === step) + 1) % all.length] ?? note.pitch;
  return withoutLooseEnds({ ...passage, notes: passage.notes.map((one) => (one.id === note.id ? { ...one, pitch } : one)) });
};

/** A passage with something of one note's chord changed. */
const withChord = (passage: Passage, note: PassageNote, change: (one: PassageNote) => PassageNote): Passage => ({
  ...passage,
  notes: passage.notes.map((one) => (!one.grace && isChord(one, note) ? change(one) : one)),
});

const withArticulation = (passage: Passage, note: PassageNote, articulation: Articulation): Passage =>
  withChord(passage, note, ({ articulation: before, ...rest }) => (before === articulation ? rest : { ...rest, articulation }));

const EDITS: Readonly<Record<NoteEdit, (passage: Passage, note: PassageNote) => Passage>> = {
  longer: (passage, note) => withLength(passage, note, 1),
  shorter: (passage, note) => withLength(passage, note, -1),
  tie: withTie,
  accent: (passage, note) => withChord(passage, note, ({ accent, ...rest }) => (accent ? rest : { ...rest, accent: true })),
  staccato: (passage, note) => withArticulation(passage, note, 'staccato'),
  tenuto: (passage, note) => withArticulation(passage, note, 'tenuto'),
  respell: respelled,
  rest: (passage, note) => {
    const notes = passage.notes.filter((one) => !isChord(one, note));
    return notes.some(({ grace }) => !grace) ? withoutLooseEnds({ ...passage, notes }) : passage;
  },
};

/**
 * A passage with one of its notes edited; as it is where that cannot be: the bar is full, nothing of its pitch follows that it could be tied
 * to, it belongs to a tuplet, or it is the only note.
 */
export const withNoteEdited = (passage: Passage, noteId: string, edit: NoteEdit): Passage => {
  const note = passage.notes.find(({ id }) => id === noteId);
  return note && !note.grace ? EDITS[edit](passage, note) : passage;
};
