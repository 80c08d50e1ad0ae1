import type { Onset } from '../schema/measures';
import { sampleSd } from '../stats/summary';
import type { ExpectedNote } from '../time/repetition-plan';

/** How much slower or faster than asked a tempo of one's own is looked for, and in what steps. */
const SLOWEST = 2.2;
const FASTEST = 0.4;
const STEP = 1.01;
/** A note belongs to a gridline within this share of its interval. */
const REACH = 0.4;

/** How well notes laid from an onset, stretched by a factor, explain the onsets: found notes against what is left over and how far off. */
const explained = (times: readonly number[], notes: readonly ExpectedNote[], firstS: number, scale: number): number => {
  const zero = notes[0]?.timeS ?? 0;
  let at = 0;
  let found = 0;
  const off: number[] = [];
  for (const note of notes) {
    const wantedS = firstS + (note.timeS - zero) * scale;
    const reachS = REACH * note.intervalS * scale;
    while (at < times.length && (times[at] as number) < wantedS - reachS) at += 1;
    const time = times[at];
    if (time === undefined || time > wantedS + reachS) continue;
    found += 1;
    off.push((time - wantedS) / (note.intervalS * scale));
    at += 1;
  }
  const spread = off.length > 1 ? sampleSd(off) : REACH;
  return found - Math.max(0, times.length - found) * 0.5 - found * Math.min(1, spread / REACH);
};

/** The notes of a plan as they lie at the tempo that was played, and how much slower than asked that is (1: as asked). */
export interface OwnTempo {
  notes: ExpectedNote[];
  scale: number;
}

/**
 * The tempo at which a repetition without a click was really played: the stretching of the plan, laid from its first notes, that explains
 * the onsets best. Null where too little was heard to say. Onsets ascend in time.
 */
export const ownTempoOf = (onsets: readonly Onset[], notes: readonly ExpectedNote[]): OwnTempo | null => {
  const times = onsets.map(({ timeS }) => timeS);
  if (times.length < 2 || notes.length < 2) return null;
  let best: { score: number; scale: number; firstS: number } | null = null;
  const steps = Math.round(Math.log(SLOWEST / FASTEST) / Math.log(STEP));
  // An extra note before the first, or a first one that was not heard, must not lead astray: the first few are tried.
  for (const firstS of times.slice(0, 3))
    for (let k = 0; k <= steps; k += 1) {
      const scale = FASTEST * STEP ** k;
      const score = explained(times, notes, firstS, scale);
      if (!best || score > best.score) best = { score, scale, firstS };
    }
  if (!best || best.score < notes.length * 0.3) return null;
  const fitted = leastSquares(times, notes, best);
  const zero = notes[0]?.timeS ?? 0;
  return {
    scale: fitted.scale,
    notes: notes.map((note) => ({
      ...note,
      timeS: fitted.firstS + (note.timeS - zero) * fitted.scale,
      intervalS: note.intervalS * fitted.scale,
    })),
  };
};

/** The straight line through the notes that were found: their own tempo to within its unsteadiness. */
const leastSquares = (
  times: readonly number[],
  notes: readonly ExpectedNote[],
  { scale, firstS }: { scale: number; firstS: number },
): { scale: number; firstS: number } => {
  const zero = notes[0]?.timeS ?? 0;
  const pairs = notes.flatMap((note) => {
    const wantedS = firstS + (note.timeS - zero) * scale;
    const near = times.reduce(
      (best, time) => (Math.abs(time - wantedS) < Math.abs(best - wantedS) ? time : best),
      Number.POSITIVE_INFINITY,
    );
    return Math.abs(near - wantedS) <= REACH * note.intervalS * scale ? [{ x: note.timeS - zero, y: near }] : [];
  });
  if (pairs.length < 3) return { scale, firstS };
  const meanX = pairs.reduce((sum, { x }) => sum + x, 0) / pairs.length;
  const meanY = pairs.reduce((sum, { y }) => sum + y, 0) / pairs.length;
  const across = pairs.reduce((sum, { x, y }) => sum + (x - meanX) * (y - meanY), 0);
  const playAlong = pairs.reduce((sum, { x }) => sum + (x - meanX) ** 2, 0);
  const slope = playAlong > 0 ? across / playAlong : scale;
  return { scale: slope, firstS: meanY - slope * meanX };
};
