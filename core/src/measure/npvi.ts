/**
 * Normalised pairwise variability index: 100/(m − 1) · Σ |(a − b) / ((a + b)/2)| over neighbouring intervals.
 * Given interval ratios, notated inequality drops out. Null below two intervals.
 * Source: Grabe & Low, Papers in Laboratory Phonology 7 (2002).
 */
export const npvi = (intervals: readonly number[]): number | null => {
  if (intervals.length < 2) return null;
  const sum = intervals.slice(1).reduce((total, next, k) => {
    const before = intervals[k] as number;
    return total + Math.abs((before - next) / ((before + next) / 2));
  }, 0);
  return (100 * sum) / (intervals.length - 1);
};
