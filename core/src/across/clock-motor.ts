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

const MIN_INTERVALS = 20;
/** Shorter runs than this say nothing of how an interval follows on another. */
const MIN_RUN = 5;
/** Standard errors of the autocorrelation beyond which the model does not fit. */
const ERRORS = 2.3;

/** One run without its mean and its drift: sums of squares and of neighbouring products, and what they are divided by. */
const sumsOf = (intervalsMs: readonly number[]) => {
  const count = intervalsMs.length;
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
  let squares = 0;
  let products = 0;
  rest.forEach((value, k) => {
    squares += value ** 2;
    products += value * (rest[k + 1] ?? 0);
  });
  return { squares, products, degrees: count - 2, count };
};

/**
 * Splits the variance of successive intervals (ms, of one nominal length) into clock and motor: the lag-1 autocovariance is
 * −motor variance, and Var(I) = clock + 2·motor. Several runs, as of several repetitions, are pooled; a steady drift is taken out of each
 * by a straight line, whose own pull on the autocovariance (two parameters a run) is given back. Null below 20 intervals in all.
 * Source: Wing & Kristofferson, Perception & Psychophysics 14 (1973).
 */
export const clockMotorSplit = (runsMs: readonly (readonly number[])[]): ClockMotor | null => {
  const runs = runsMs.filter((run) => run.length >= MIN_RUN).map(sumsOf);
  const sum = (of: (run: (typeof runs)[number]) => number) => runs.reduce((total, run) => total + of(run), 0);
  const intervals = sum((run) => run.count);
  if (intervals < MIN_INTERVALS) return null;
  const degrees = sum((run) => run.degrees);
  const variance = sum((run) => run.squares) / degrees;
  // Taking off a mean and a slope pulls neighbouring residuals against each other by about two variances a run.
  const covariance = (sum((run) => run.products) + 2 * variance * runs.length * PULL) / degrees;
  const motor = Math.min(variance / 2, Math.max(0, -covariance));
  const correlation = covariance / variance;
  const error = ERRORS / Math.sqrt(degrees);
  return {
    clockSdMs: Math.sqrt(Math.max(0, variance - 2 * motor)),
    motorSdMs: Math.sqrt(motor),
    intervals,
    // Of a correlation near −0.5 the error is √½ of that near 0 (Bartlett).
    fits: correlation <= error && correlation >= -0.5 - error * Math.SQRT1_2,
  };
};

/** How much of the pull is given back: what simulated runs of 8 to 60 intervals need. */
const PULL = 0.5;
