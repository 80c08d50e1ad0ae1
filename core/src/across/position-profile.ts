import type { NoteResult } from '../schema/measures';
import { type Estimate, meanEstimate } from '../stats/interval-estimate';
import { mean, median, sampleSd } from '../stats/summary';

/** One event of a grid over all its repetitions. Deviations are about each repetition's own placement. */
export interface Position {
  index: number;
  /** How many repetitions it sounded in, and how many missed it. */
  count: number;
  missed: number;
  /** Mean deviation with its 95 % interval, in ms: what is the same every time. */
  meanMs: Estimate;
  /** Sample standard deviation in ms: what differs; null below two values. */
  sdMs: number | null;
  /** Mean level against the repetition's own mean, in dB. */
  levelDb: number | null;
}

/** One repetition's deviations about its own placement (its median), by note; null where a note was missed. */
export const centredDeviationsMs = (notes: readonly NoteResult[]): (number | null)[] => {
  const placement = median(notes.flatMap((note) => (note.deviationMs === null ? [] : [note.deviationMs])));
  return notes.map((note) => (note.deviationMs === null ? null : note.deviationMs - placement));
};

/** One repetition's deviations, each from the middle of all others: from a middle that it is itself, a note would lie at 0. */
export const deviationsFromOthersMs = (notes: readonly NoteResult[]): number[] => {
  const played = notes.flatMap(({ deviationMs }) => deviationMs ?? []);
  return played.length < 2 ? [] : played.map((value, k) => value - median(played.toSpliced(k, 1)));
};

/**
 * The per-position profile: mean and standard deviation of the deviation at every event of a grid, over repetitions of
 * the same grid. The placement of each repetition is taken off, so that leaning on the click is not a profile.
 */
export const positionProfile = (repetitions: readonly (readonly NoteResult[])[]): Position[] => {
  const centred = repetitions.map(centredDeviationsMs);
  const levels = repetitions.map((notes) => {
    const heard = notes.flatMap((note) => (note.levelDb === null ? [] : [note.levelDb]));
    const centre = mean(heard);
    return notes.map((note) => (note.levelDb === null ? null : note.levelDb - centre));
  });
  return (repetitions[0] ?? []).map(({ index }, k) => {
    const values = centred.flatMap((row) => row[k] ?? []);
    const level = mean(levels.flatMap((row) => row[k] ?? []));
    const sd = sampleSd(values);
    return {
      index,
      count: values.length,
      missed: repetitions.length - values.length,
      meanMs: meanEstimate(mean(values), sd, values.length),
      sdMs: Number.isFinite(sd) ? sd : null,
      levelDb: Number.isFinite(level) ? level : null,
    };
  });
};
