import { makeReason, type Reason } from '../schema/reason';
import { studentTQuantile } from '../stats/interval-estimate';
import { mean, sampleSd } from '../stats/summary';
import { dayIndex } from '../time/day';
import type { CleanDay } from './goal-range';

/** Around a date so many practice days count, none farther from it than this. */
const DAYS_EACH = 6;
const REACH_DAYS = 28;
const MIN_EACH = 3;

/** The days with a clean tempo nearest before a date, itself among them. */
const daysBefore = (history: readonly CleanDay[], date: string): CleanDay[] =>
  history.filter(({ day }) => day <= date && dayIndex(date) - dayIndex(day) < REACH_DAYS).slice(-DAYS_EACH);

/**
 * What changed between two dates: the mean of the best clean tempos of the days before each, and how far they differ with its 95 % interval
 * (Welch's t, from the logarithms; NIST/SEMATECH e-Handbook, 7.3.1). `history` is in order of time; the days of the later date begin after
 * the earlier one.
 */
export const changedSince = (history: readonly CleanDay[], from: string, to: string): Reason => {
  const before = daysBefore(history, from);
  const after = daysBefore(
    history.filter(({ day }) => day > from),
    to,
  );
  if (before.length < MIN_EACH || after.length < MIN_EACH)
    return makeReason('changed-too-few', { before: before.length, after: after.length, needed: MIN_EACH });
  const [one, other] = [before, after].map((days) => days.map(({ bestCleanBpm }) => Math.log(bestCleanBpm))) as [
    number[],
    number[],
  ];
  const [meanOne, meanOther] = [mean(one), mean(other)];
  const [partOne, partOther] = [sampleSd(one) ** 2 / one.length, sampleSd(other) ** 2 / other.length];
  const sum = partOne + partOther;
  const degrees =
    sum > 0
      ? sum ** 2 / (partOne ** 2 / (one.length - 1) + partOther ** 2 / (other.length - 1))
      : one.length + other.length - 2;
  const half = studentTQuantile(0.975, degrees) * Math.sqrt(sum);
  const base = Math.exp(meanOne);
  const gain = meanOther - meanOne;
  const bpm = (log: number) => Math.round(base * (Math.exp(log) - 1) * 10) / 10;
  const values = {
    was: Math.round(base),
    is: Math.round(Math.exp(meanOther)),
    bpm: bpm(gain),
    low: bpm(gain - half),
    high: bpm(gain + half),
  };
  if (gain - half > 0) return makeReason('changed-up', values);
  return gain + half < 0 ? makeReason('changed-down', values) : makeReason('changed-none', values);
};
