import { mean } from '../stats/summary';

/** Where the notes moved at once, and by how much: later positive, in ms. */
export interface Jump {
  /** The first note after it, by its place among the values. */
  from: number;
  byMs: number;
}

/** So many notes on either side say where they lie. */
const LEAST_NOTES = 4;
/** A jump is one where it is so many of its own standard errors, looked for at every note (our choice). */
const CLEAR = 5;

const squaresAbout = (values: readonly number[], centre: number): number =>
  values.reduce((sum, value) => sum + (value - centre) ** 2, 0);

/**
 * The place from which on all notes lie earlier or later, where one step explains the deviations clearly better than a straight line
 * does; null where none does. Deviations in ms, in order; `steadySquares` is what a line through them leaves.
 */
export const findJump = (deviationsMs: readonly number[], steadySquares: number): Jump | null => {
  let best: (Jump & { squares: number }) | null = null;
  for (let from = LEAST_NOTES; from <= deviationsMs.length - LEAST_NOTES; from += 1) {
    const before = deviationsMs.slice(0, from);
    const after = deviationsMs.slice(from);
    const squares = squaresAbout(before, mean(before)) + squaresAbout(after, mean(after));
    if (!best || squares < best.squares) best = { from, byMs: mean(after) - mean(before), squares };
  }
  if (!best) return null;
  const { from, byMs, squares } = best;
  const count = deviationsMs.length;
  const sd = Math.sqrt(squares / (count - 3));
  const error = sd * Math.sqrt(1 / from + 1 / (count - from));
  // The step has a place besides a size: one figure more than the line.
  const isBetter = count * Math.log(steadySquares / squares) > Math.log(count);
  return isBetter && Math.abs(byMs) > CLEAR * error ? { from, byMs } : null;
};

/** The deviations without a jump, in ms. */
export const withoutJump = (deviationsMs: readonly number[], { from, byMs }: Jump): number[] =>
  deviationsMs.map((deviation, k) => (k < from ? deviation : deviation - byMs));
