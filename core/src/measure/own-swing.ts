import { type Swinging, swungEvents } from '../rhythm/swing';
import type { NoteResult } from '../schema/measures';
import { type Estimate, studentTQuantile } from '../stats/interval-estimate';
import { mean, sampleSd } from '../stats/summary';
import type { ExpectedNote } from '../time/repetition-plan';

/** Fewer swung notes than this, or notes on beats, tell no ratio. */
const MIN_NOTES = 4;

/** Seconds a beat at a note, from its neighbours. */
const beatSAt = (notes: readonly ExpectedNote[], k: number): number => {
  const [from, to] = [notes[Math.max(0, k - 1)] as ExpectedNote, notes[Math.min(notes.length - 1, k + 1)] as ExpectedNote];
  return (to.timeS - from.timeS) / (to.beat - from.beat);
};

/** How much later than expected the swung notes come against those on beats, in beats, with its 95 % interval; null where too few tell. */
const laterBeats = (grid: Swinging, results: readonly NoteResult[], notes: readonly ExpectedNote[]): Estimate | null => {
  const isSwung = swungEvents(grid);
  const off: number[] = [];
  const on: number[] = [];
  results.forEach(({ deviationMs, index }, k) => {
    const beat = notes[k]?.beat;
    if (deviationMs === null || beat === undefined) return;
    const asBeats = deviationMs / 1000 / beatSAt(notes, k);
    if (isSwung[index]) off.push(asBeats);
    else if (Number.isInteger(beat)) on.push(asBeats);
  });
  if (off.length < MIN_NOTES || on.length < MIN_NOTES) return null;
  const value = mean(off) - mean(on);
  const error = Math.sqrt(sampleSd(off) ** 2 / off.length + sampleSd(on) ** 2 / on.length);
  const half = studentTQuantile(0.975, Math.min(off.length, on.length) - 1) * error;
  return { value, low: value - half, high: value + half };
};

/** Where in its beat a swung note was expected, 0…1. */
const expectedPlace = (grid: Swinging, notes: readonly ExpectedNote[]): number => {
  const k = swungEvents(grid).indexOf(true);
  const beat = notes[k]?.beat ?? Number.NaN;
  return beat - Math.floor(beat);
};

/** A place in the beat nearer to its ends than this is none. */
const NEAREST = 0.05;
const ratioAt = (place: number): number => {
  const inside = Math.min(1 - NEAREST, Math.max(NEAREST, place));
  return inside / (1 - inside);
};

/**
 * The ratio of the first half of a swung beat to the second as it was played, with its 95 % interval (Welch's, with the degrees of the smaller
 * side). Null where nothing swings, or too few notes tell.
 */
export const swingOf = (grid: Swinging, results: readonly NoteResult[], notes: readonly ExpectedNote[]): Estimate | null => {
  if (grid.swing === undefined) return null;
  const later = laterBeats(grid, results, notes);
  const place = expectedPlace(grid, notes);
  if (!later || Number.isNaN(place)) return null;
  const { value, low, high } = later;
  return {
    value: ratioAt(place + value),
    low: low === null ? null : ratioAt(place + low),
    high: high === null ? null : ratioAt(place + high),
  };
};

/** The notes of a plan with the swung ones where this player swings them; null where that is not asked, or cannot be told. */
export const ownSwingOf = (
  grid: Swinging,
  results: readonly NoteResult[],
  notes: readonly ExpectedNote[],
): ExpectedNote[] | null => {
  const later = grid.swing === 'own' ? laterBeats(grid, results, notes) : null;
  if (!later) return null;
  const isSwung = swungEvents(grid);
  const moved = notes.map((note, k) =>
    isSwung[note.index]
      ? { ...note, beat: note.beat + later.value, timeS: note.timeS + later.value * beatSAt(notes, k) }
      : note,
  );
  return moved.map((note, k) => {
    const [next, before] = [moved[k + 1], moved[k - 1]];
    return { ...note, intervalS: next ? next.timeS - note.timeS : before ? note.timeS - before.timeS : note.intervalS };
  });
};
