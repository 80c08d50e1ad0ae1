import { group } from 'd3-array';
import { beats } from '../schema/beats';
import type { Passage, PassageNote } from '../schema/passage';
import { samePitch } from '../schema/passage-faults';

/** What belongs to one line of a passage: a voice of a staff. */
export const isSameLine = (a: PassageNote, b: PassageNote): boolean => a.staff === b.staff && a.voice === b.voice;

/** Where a note ends, in beats. */
export const endOf = ({ at, length }: PassageNote) => beats(at).add(beats(length));

/** A passage some of whose notes were taken out or moved: ties, slurs and marks that led to what is not there any more go as well. */
export const withoutLooseEnds = (passage: Passage): Passage => {
  const starts = group(
    passage.notes.filter(({ grace }) => !grace),
    ({ at }) => beats(at).toFraction(),
  );
  const there = new Set(passage.notes.map(({ id }) => id));
  const leadsOn = (note: PassageNote) =>
    (starts.get(endOf(note).toFraction()) ?? []).some((other) => isSameLine(other, note) && samePitch(other.pitch, note.pitch));
  const notes = passage.notes.map((note) => {
    const { tie, slurTo, ...rest } = note;
    return {
      ...rest,
      ...(tie && leadsOn(note) ? { tie } : {}),
      ...(slurTo !== undefined && there.has(slurTo) ? { slurTo } : {}),
    };
  });
  const variants = passage.variants.map((variant) => ({
    ...variant,
    marks: Object.fromEntries(Object.entries(variant.marks).filter(([id]) => there.has(id))),
  }));
  return { ...passage, notes, variants };
};
