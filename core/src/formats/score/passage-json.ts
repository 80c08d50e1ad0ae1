import { gridOf } from '../../rhythm/grid-of';
import { midiOf } from '../../rhythm/pitch';
import { beats } from '../../schema/beats';
import type { Passage, PassageNote } from '../../schema/passage';
import { pitchText } from './text-write';

/** The notes of a passage as plain figures: places and lengths exact fractions of the beat from the first downbeat, repeats written out. */
export const passageFigures = (passage: Passage) => {
  const {
    title,
    beatUnit,
    pickup,
    meters,
    keys,
    staves,
    bars,
    transposition = 0,
    swing,
    goalBpm,
    sections,
    pageBars,
    firstBarNumber,
  } = passage;
  const chords = new Map<string, PassageNote[]>();
  for (const note of passage.notes.filter(({ grace }) => !grace)) {
    const key = [note.at, note.length, note.voice, note.staff, note.tie ?? false].join('|');
    chords.set(key, [...(chords.get(key) ?? []), note]);
  }
  const height = (note: PassageNote) => (note.pitch ? midiOf(note.pitch) : 0);
  const notes = [...chords.values()]
    .map((chord) => {
      const ascending = [...chord].sort((a, b) => height(a) - height(b));
      const [first] = ascending as [PassageNote];
      return {
        id: first.id,
        at: first.at,
        length: first.length,
        /** Where they sound, as MIDI note numbers; empty for a note without pitch. */
        pitches: ascending.flatMap((note) => (note.pitch ? [midiOf(note.pitch) + transposition] : [])),
        /** How they are written. */
        written: ascending.flatMap((note) => (note.pitch ? [pitchText(note.pitch)] : [])),
        voice: first.voice,
        staff: first.staff,
        tie: first.tie ?? false,
      };
    })
    .sort((a, b) => beats(a.at).compare(beats(b.at)) || a.staff - b.staff || a.voice - b.voice);
  const graces = passage.notes
    .filter(({ grace }) => grace)
    .map(({ id, at, pitch, voice, staff }) => ({ id, at, written: pitch ? pitchText(pitch) : null, voice, staff }));
  return {
    title,
    beatUnit,
    pickup,
    meters,
    keys,
    staves,
    bars,
    firstBarNumber,
    pageBars,
    transposition,
    ...(swing === undefined ? {} : { swing }),
    goalBpm,
    sections,
    onsets: gridOf(passage).events.length,
    notes,
    graces,
  };
};
