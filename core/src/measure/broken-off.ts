import { chordReachS } from '../align/group-chords';
import { type ExpectedNote, shortestIntervalMs } from '../time/repetition-plan';

/** Who plays nothing where notes are due for so many beats, and so long at least, has broken off. */
export const SILENT_BEATS = 2;
export const SILENT_S = 1.5;
/** Who plays at half the tempo holds a note so many times as long as it is written, a little more, and has not stopped. */
const SLOWER = 2.2;
/** So many notes must have been heard: who never began has broken nothing off. */
const MIN_HEARD = 2;
/** A note may come so much of its interval late and is no silence yet. */
const LATE_SHARE = 0.5;

/** When notes were heard from the first one on; what was struck together is one. */
const heardOf = (notes: readonly ExpectedNote[], onsetsS: readonly number[], offsetS: number): readonly number[] => {
  const [first] = notes;
  if (!first) return [];
  const reachS = chordReachS(shortestIntervalMs(notes) / 1000);
  const heardS: number[] = [];
  for (const timeS of onsetsS)
    if (timeS > first.timeS + offsetS - first.intervalS / 2 && !(timeS - (heardS.at(-1) ?? Number.NEGATIVE_INFINITY) <= reachS))
      heardS.push(timeS);
  return heardS;
};

/**
 * The first note that was not played any more where nothing more will come, counted from 0: as many as there are where all were played;
 * null where hardly one was.
 * @param onsetsS What was heard, ascending, in seconds; `offsetS` is how late everything comes.
 */
export const firstUnplayed = (notes: readonly ExpectedNote[], onsetsS: readonly number[], offsetS: number): number | null => {
  const heardS = heardOf(notes, onsetsS, offsetS);
  const latestS = heardS.at(-1);
  if (latestS === undefined || heardS.length < MIN_HEARD) return null;
  const at = notes.findIndex(({ timeS, intervalS }, k) => {
    const before = notes[k - 1]?.intervalS ?? intervalS;
    return timeS + offsetS - LATE_SHARE * before > latestS;
  });
  if (at < 0) return notes.length;
  return at === 0 ? null : at;
};

/**
 * How many notes were played, by how many were heard: at a tempo of the player's own their places tell nothing. As many as there are where
 * more were heard; null where hardly one was.
 */
export const countPlayed = (notes: readonly ExpectedNote[], onsetsS: readonly number[], offsetS: number): number | null => {
  const count = heardOf(notes, onsetsS, offsetS).length;
  return count < MIN_HEARD ? null : Math.min(count, notes.length);
};

/**
 * The first note that was not played any more, counted from 0; null while the playing goes on, or where it was played to its end. Silence
 * counts from when a note was due: a rest, or a long note, is none.
 * @param onsetsS What was heard, ascending, in seconds; `offsetS` is how late everything comes.
 */
export const brokenOffAt = (
  notes: readonly ExpectedNote[],
  onsetsS: readonly number[],
  nowS: number,
  offsetS: number,
): number | null => {
  const at = firstUnplayed(notes, onsetsS, offsetS);
  if (at === null || at === notes.length) return null;
  const heardS = heardOf(notes, onsetsS, offsetS);
  const latestS = heardS.at(-1) as number;
  const [before, next] = notes.slice(at - 1) as [ExpectedNote, ExpectedNote];
  // By its place in time, and by how many were heard, the note that sounds now.
  const held = notes[Math.min(heardS.length, notes.length) - 1] ?? before;
  if (nowS - latestS < SLOWER * Math.max(before.intervalS, held.intervalS)) return null;
  const beatS = (next.timeS - before.timeS) / Math.max(1e-6, next.beat - before.beat);
  return nowS - (next.timeS + offsetS) >= Math.max(SILENT_S, SILENT_BEATS * beatS) ? at : null;
};
