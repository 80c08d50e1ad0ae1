import { median } from '../stats/summary';
import { clampBpm } from './clamp-tempo';

/** A pause as long as this begins a new tempo: the slowest that is tapped is 24 (our choice). */
const NEW_MS = 2500;
/** So many intervals tell, the latest ones (our choice): the median of eight outlives one slip. */
const INTERVALS = 8;

/**
 * The tempo of taps, in whole beats a minute; null before the second one. A pause begins it anew.
 *
 * @param timesMs when each tap came, ascending, in milliseconds
 */
export const tappedBpm = (timesMs: readonly number[]): number | null => {
  const intervals = timesMs.slice(1).map((time, k) => time - (timesMs[k] as number));
  const own = intervals.slice(intervals.findLastIndex((ms) => ms > NEW_MS) + 1).slice(-INTERVALS);
  return own.length ? clampBpm(Math.round(60_000 / median(own))) : null;
};
