import type Fraction from 'fraction.js';
import { beats } from './beats';
import { barStarts, type Frame } from './frame';
import type { Pitch } from './notation';

/** As much of a passage as its faults are told by. */
interface Checked extends Frame {
  notes: {
    id: string;
    at: string;
    length: string;
    pitch: Pitch | null;
    staff: number;
    voice: number;
    tie?: boolean;
    grace?: boolean;
  }[];
  variants: { id: string; name: string; marks: Record<string, unknown> }[];
  sections: { id: string; name: string; fromBar: number; toBar: number }[];
}

const ascends = (positions: readonly string[]) =>
  positions.every((at, k) => (k === 0 ? beats(at).equals(0) : beats(at).compare(beats(positions[k - 1] as string)) > 0));

const twice = (ids: readonly string[]): string | undefined => {
  const seen = new Set<string>();
  return ids.find((id) => seen.size === seen.add(id).size);
};

/** Whether two pitches are written alike; notes without pitch are. */
export const samePitch = (a: Pitch | null, b: Pitch | null) =>
  a?.step === b?.step && a?.alter === b?.alter && a?.octave === b?.octave;

/** What is wrong with the frame: without a sound frame the notes cannot be looked at. */
const frameFaults = (frame: Frame): string[] => {
  if (beats(frame.beatUnit).compare(0) <= 0) return ['The beat is a note value greater than nothing, like 1/4.'];
  if (beats(frame.pickup).compare(0) < 0) return ['A pickup is not shorter than nothing.'];
  if (!ascends(frame.meters.map(({ at }) => at))) return ['The first time signature stands at 0, the others follow in order.'];
  if (!ascends(frame.keys.map(({ at }) => at))) return ['The first key signature stands at 0, the others follow in order.'];
  const lines = new Set(barStarts(frame).map((at) => at.toFraction()));
  const off = frame.meters.find(({ at }) => !lines.has(beats(at).toFraction()));
  return off ? [`The time signature at ${off.at} does not stand at a bar line.`] : [];
};

const noteFaults = (passage: Checked, end: Fraction): string[] => {
  const faults: string[] = [];
  const from = beats(passage.pickup).neg();
  const starts = new Map<string, Checked['notes']>();
  for (const note of passage.notes) {
    const key = `${beats(note.at).toFraction()}/${note.voice}/${note.staff}`;
    const here = starts.get(key);
    if (here) here.push(note);
    else starts.set(key, [note]);
  }
  for (const note of passage.notes) {
    const at = beats(note.at);
    const length = beats(note.length);
    const stop = at.add(length);
    const isShort = length.compare(0) < 0 || (length.equals(0) && !note.grace);
    if (isShort) faults.push(`Note ${note.id} has no length. Give it one, like 1/4.`);
    else if (at.compare(from) < 0)
      faults.push(`Note ${note.id} begins before the pickup. Make the pickup longer or move the note.`);
    else if (stop.compare(end) > 0) faults.push(`Note ${note.id} reaches past the last bar. Add a bar or shorten the note.`);
    else if (note.staff > passage.staves.length) faults.push(`Note ${note.id} is on a staff that is not there.`);
    else if (note.tie) {
      const next = starts.get(`${stop.toFraction()}/${note.voice}/${note.staff}`) ?? [];
      if (!next.some((one) => samePitch(one.pitch, note.pitch)))
        faults.push(`Note ${note.id} is tied, but no note of its pitch follows in its voice.`);
    }
    if (faults.length >= 10) break;
  }
  return faults;
};

/**
 * What no schema of single fields can tell: everything in a passage that could not be counted, drawn or played, in sentences
 * for the player. Empty for a passage that can be practised.
 */
export const passageFaults = (passage: Checked): string[] => {
  const faults = frameFaults(passage);
  if (faults.length) return faults;
  const ids = passage.notes.map((note) => note.id);
  const double = twice(ids) ?? twice(passage.variants.map((one) => one.id)) ?? twice(passage.sections.map((one) => one.id));
  if (double !== undefined) faults.push(`The id ${double} is used twice.`);
  faults.push(...noteFaults(passage, barStarts(passage).at(-1) as Fraction));
  if (passage.notes.every((note) => note.grace)) faults.push('There is no note to be timed.');
  const known = new Set(ids);
  for (const { name, marks } of passage.variants) {
    const lost = Object.keys(marks).find((id) => !known.has(id));
    if (lost !== undefined) faults.push(`“${name}” marks a note that is not there (${lost}).`);
  }
  for (const { name, fromBar, toBar } of passage.sections)
    if (fromBar > toBar || toBar > passage.bars)
      faults.push(`The section “${name}” does not lie within the ${passage.bars} bars.`);
  return faults;
};
