import { mean } from '../stats/summary';

/** The two levels of timing in a run without a click. */
export interface ClockMotor {
  /** Standard deviation of the inner timekeeper's intervals, ms. */
  clockSdMs: number;
  /** Standard deviation of the delay from impulse to note, ms. */
  motorSdMs: number;
  intervals: number;
  /** False where the lag-1 autocorrelation lies outside −0.5…0, so that the model does not fit; the figures are then capped. */
  fits: boolean;
}

const LEAST_INTERVALS = 20;

/**
 * Splits the variance of successive intervals (ms, of one nominal length) into clock and motor: the lag-1 autocovariance is
 * −motor variance, and Var(I) = clock + 2·motor. A steady drift is taken out first by a straight line. Null below 20 intervals.
 * Source: Wing & Kristofferson, Perception & Psychophysics 14 (1973).
 */
export const clockMotorSplit = (intervalsMs: readonly number[]): ClockMotor | null => {
  const count = intervalsMs.length;
  if (count < LEAST_INTERVALS) return null;
  const middle = (count - 1) / 2;
  const centre = mean(intervalsMs);
  let run = 0;
  let product = 0;
  intervalsMs.forEach((interval, k) => {
    run += (k - middle) ** 2;
    product += (k - middle) * (interval - centre);
  });
  const slope = product / run;
  const rest = intervalsMs.map((interval, k) => interval - centre - slope * (k - middle));
  let variance = 0;
  let covariance = 0;
  rest.forEach((value, k) => {
    variance += value ** 2;
    covariance += value * (rest[k + 1] ?? 0);
  });
  variance /= count - 2;
  covariance /= count - 2;
  const motor = Math.min(variance / 2, Math.max(0, -covariance));
  return {
    clockSdMs: Math.sqrt(Math.max(0, variance - 2 * motor)),
    motorSdMs: Math.sqrt(motor),
    intervals: count,
    fits: covariance <= 0 && -covariance <= variance / 2,
  };
};
