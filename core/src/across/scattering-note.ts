import jStat from 'jstat';
import { median, rootMeanSquare } from '../stats/summary';
import type { Detrended } from './detrended';

/** A note that comes out different every time while the others do not. */
export interface ScatteringNote {
  position: number;
  /** Its standard deviation over the repetitions, and the others', in ms. */
  sdMs: number;
  othersMs: number;
}

/** The chance of a false alarm in a take. */
const FALSE_ALARM = 0.01;
/** It scatters so many times as much as the others at least, and clearly more than the next one (our choice). */
const TIMES = 2.5;
const NEXT_SHARE = 0.7;

/** The chance that so many values, each even between 0 and 1, add up to `sum` or more (Irwin and Hall, 1927). */
export const atLeastSum = (sum: number, count: number): number => {
  const short = count - sum;
  if (short <= 0) return 0;
  if (count > 16) {
    return 1 - jStat.normal.cdf(sum, count / 2, Math.sqrt(count / 12));
  }
  let total = 0;
  let factor = 1;
  for (let k = 0; k <= Math.floor(short); k += 1) {
    total += factor * (short - k) ** count;
    factor *= -(count - k) / (k + 1);
  }
  let factorial = 1;
  for (let k = 2; k <= count; k += 1) factorial *= k;
  return Math.max(0, Math.min(1, total / factorial));
};

/**
 * The one note that scatters far more than all others, by its rank in each repetition, so that one wild slip is not one; null where none
 * does, or several do alike.
 */
export const scatteringNote = ({ rest, means }: Detrended): ScatteringNote | null => {
  const positions = means.length;
  const ranks = means.map(() => [] as number[]);
  // About the middle one of a note: about the mean, one slip would make all its repetitions look wild.
  const middles = means.map((_, k) => median(rest.flatMap((row) => row[k] ?? [])));
  for (const row of rest) {
    const order = row
      .flatMap((value, k) => (value === null ? [] : [{ k, size: Math.abs(value - (middles[k] as number)) }]))
      .sort((a, b) => a.size - b.size);
    order.forEach(({ k }, place) => {
      ranks[k]?.push((place + 0.5) / order.length);
    });
  }
  const sizes = means.map((_, k) => {
    const own = rest.flatMap((row) => row[k] ?? []);
    return own.length > 1 ? rootMeanSquare(own) * Math.sqrt(own.length / (own.length - 1)) : 0;
  });
  const position = sizes.indexOf(Math.max(...sizes));
  const others = sizes.filter((_, k) => k !== position);
  const sdMs = sizes[position] ?? 0;
  const othersMs = median(others);
  const own = ranks[position] ?? [];
  const probability = atLeastSum(
    own.reduce((sum, rank) => sum + rank, 0),
    own.length,
  );
  const standsOut = sdMs >= TIMES * othersMs && Math.max(...others) <= NEXT_SHARE * sdMs;
  return standsOut && probability < FALSE_ALARM / positions ? { position, sdMs, othersMs } : null;
};
