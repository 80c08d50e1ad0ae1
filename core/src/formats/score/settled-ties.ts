import { bisectLeft, group, rollup } from 'd3-array';
import type Fraction from 'fraction.js';
import { midiOf } from '../../rhythm/pitch';
import { beats, writeBeats } from '../../schema/beats';
import type { PassageNote } from '../../schema/passage';

interface Timed {
  note: PassageNote;
  at: Fraction;
  stop: Fraction;
}

const height = ({ pitch }: PassageNote): number | null => (pitch ? midiOf(pitch) : null);
const lineOf = ({ staff, voice }: PassageNote): string => `${staff}/${voice}`;

/**
 * Notes of a file whose ties hold as a passage has it, from a note to the next of its pitch in its voice. What is tied to another spelling
 * is spelled as it began; what is tied into another voice or staff is moved to where it began, if there is room. Ties that lead to no note,
 * as at the end of a first ending, are cut; notes that reach past the end too.
 *
 * @param end of the last bar, in beats
 * @param simplified what could not be taken over is said here
 */
export const settledTies = (notes: readonly PassageNote[], end: Fraction, simplified: string[]): PassageNote[] => {
  const settled = notes.map((note): Timed => {
    const at = beats(note.at);
    const stop = at.add(beats(note.length));
    return stop.compare(end) > 0 ? { note: { ...note, length: writeBeats(end.sub(at)) }, at, stop } : { note, at, stop };
  });
  const startingAt = group(
    settled.filter(({ note }) => !note.grace),
    ({ at }) => at.toFraction(),
  );
  const inOrder = [...settled].sort((a, b) => a.at.compare(b.at));
  const starts = rollup(
    inOrder,
    (line) => line.map(({ at }) => at.valueOf()),
    ({ note }) => lineOf(note),
  );
  /** Whether nothing else begins in a line while a note would sound there. */
  const isFree = (line: string, { at, stop }: Timed): boolean => {
    const begun = starts.get(line) ?? [];
    return (begun[bisectLeft(begun, at.valueOf())] ?? Number.POSITIVE_INFINITY) >= stop.valueOf();
  };
  const held = new Set<Timed>();
  for (const one of inOrder) {
    if (!one.note.tie) continue;
    const same = (startingAt.get(one.stop.toFraction()) ?? []).filter(
      (other) => !held.has(other) && height(other.note) === height(one.note),
    );
    const line = lineOf(one.note);
    const next = same.find((other) => lineOf(other.note) === line) ?? same.find((other) => isFree(line, other));
    if (next) {
      held.add(next);
      next.note = { ...next.note, pitch: one.note.pitch, staff: one.note.staff, voice: one.note.voice };
    } else {
      simplified.push('A tie that leads to no note was left out.');
      const { tie: _, ...rest } = one.note;
      one.note = rest;
    }
  }
  return settled.map(({ note }) => note);
};
