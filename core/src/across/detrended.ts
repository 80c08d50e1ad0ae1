import type { NoteResult } from '../schema/measures';
import { mean } from '../stats/summary';

/** What repetitions have in common and what they do not, position by position; deviations in ms without each repetition's own trend. */
export interface Detrended {
  /** Mean over the repetitions. */
  means: number[];
  /** What a repetition has beside that; null where a note was missed. */
  rest: (number | null)[][];
  /** The variance of that, over all notes. */
  restVariance: number;
  /** How neighbours hang together within a repetition: autocorrelations from lag 1 up. */
  correlations: number[];
  /** When the notes are due in the first repetition, in seconds. */
  timesS: number[];
  repetitions: number;
}

/** A level and a slope over time are a repetition's own: leaning on the click, or dragging, is no place. */
export const TREND_TERMS = 2;
const MOST_LAGS = 8;

/** Values without their level and their slope over `x`; nulls stay, and do not count. */
const withoutTrend = (values: readonly (number | null)[], x: readonly number[]): (number | null)[] => {
  const known = values.flatMap((value, k) => (value === null ? [] : [{ value, at: x[k] as number }]));
  if (known.length <= TREND_TERMS) return values.map((value) => (value === null ? null : 0));
  const centreX = mean(known.map(({ at }) => at));
  const centreY = mean(known.map(({ value }) => value));
  const run = known.reduce((sum, { at }) => sum + (at - centreX) ** 2, 0);
  const slope = run > 0 ? known.reduce((sum, { value, at }) => sum + value * (at - centreX), 0) / run : 0;
  return values.map((value, k) => (value === null ? null : value - centreY - slope * ((x[k] as number) - centreX)));
};

/**
 * Repetitions of one grid without their trends. Centred by a line and not by the median: that of an alternating pattern lies on one of
 * its two sides. Null where there is too little for it.
 */
export const detrended = (repetitions: readonly (readonly NoteResult[])[]): Detrended | null => {
  const first = repetitions[0] ?? [];
  const timesS = first.map(({ expectedS }) => expectedS);
  const positions = timesS.length;
  const count = repetitions.length;
  if (count < 2 || positions <= TREND_TERMS + 1) return null;
  const rows = repetitions.map((notes) =>
    withoutTrend(
      notes.map(({ deviationMs }) => deviationMs),
      notes.map(({ expectedS }) => expectedS),
    ),
  );
  const means = timesS.map((_, k) => {
    const own = rows.flatMap((row) => row[k] ?? []);
    return own.length ? mean(own) : 0;
  });
  const rest = rows.map((row) => row.map((value, k) => (value === null ? null : value - (means[k] as number))));
  let squares = 0;
  let played = 0;
  const products = Array.from({ length: Math.min(MOST_LAGS, positions - 2) }, () => 0);
  for (const row of rest)
    row.forEach((value, k) => {
      if (value === null) return;
      squares += value ** 2;
      played += 1;
      products.forEach((_, lag) => {
        products[lag] = (products[lag] as number) + value * (row[k + lag + 1] ?? 0);
      });
    });
  // Each repetition gave its trend away, and the means took one repetition's worth.
  const degrees = ((played - TREND_TERMS * count) * (count - 1)) / count;
  return {
    means,
    rest,
    restVariance: squares / Math.max(1, degrees),
    // Taking a trend off makes neighbours look a little opposed.
    correlations: products.map((product, lag) =>
      squares > 0 ? product / squares + (TREND_TERMS / positions) * (1 - (lag + 1) / positions) : 0,
    ),
    timesS,
    repetitions: count,
  };
};
