import jStat from 'jstat';

/** A figure with its 95 % confidence interval; both ends are null where too few values say anything. */
export interface Estimate {
  value: number;
  low: number | null;
  high: number | null;
}

/** Quantile of the chi-square distribution (probability 0…1, degrees of freedom). */
export const chiSquareQuantile = (probability: number, degrees: number): number => jStat.chisquare.inv(probability, degrees);

/** The chance of so many or more of `of`, each with a chance of its own of `share`. */
export const atLeastProbability = (count: number, of: number, share: number): number =>
  1 - jStat.binomial.cdf(count - 1, of, share);

/** The chance of a value at least as far from 0 as `t`, either way, under Student's t distribution. */
export const studentTProbability = (t: number, degrees: number): number => 2 * jStat.studentt.cdf(-Math.abs(t), degrees);

/** Quantile of Student's t distribution (probability 0…1, degrees of freedom). */
export const studentTQuantile = (probability: number, degrees: number): number => jStat.studentt.inv(probability, degrees);

/**
 * The 95 % interval of a sample standard deviation of `count` independent normal values:
 * sd · √((n − 1)/χ²). Source: NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.5.8.
 */
export const sdEstimate = (sd: number, count: number): Estimate => {
  const degrees = count - 1;
  return degrees < 1 || !Number.isFinite(sd) ? { value: sd, low: null, high: null } : sdInterval(sd, degrees);
};

const sdInterval = (sd: number, degrees: number): Estimate => ({
  value: sd,
  low: sd * Math.sqrt(degrees / chiSquareQuantile(0.975, degrees)),
  high: sd * Math.sqrt(degrees / chiSquareQuantile(0.025, degrees)),
});

/**
 * A standard deviation with known noise taken off in quadrature: √(sd² − noise²), never below 0; its interval likewise. Where the
 * noise itself may be off by a share of it (`doubt`), the interval is the wider for it.
 */
export const withoutNoise = ({ value, low, high }: Estimate, noise: number, doubt = 0): Estimate => {
  const less = (sd: number, by: number) => Math.sqrt(Math.max(0, sd ** 2 - by ** 2));
  return {
    value: less(value, noise),
    low: low === null ? null : less(low, noise * (1 + doubt)),
    high: high === null ? null : less(high, noise * (1 - doubt)),
  };
};

/** A standard deviation with its interval, known noise taken off as {@link withoutNoise} does; null where there are too few values. */
export const sdFigure = (estimate: Estimate, noise: number, doubt: number): Estimate | null =>
  Number.isFinite(estimate.value) ? withoutNoise(estimate, noise, doubt) : null;

/**
 * The 95 % interval of a mean: mean ± t · sd/√n. Source: NIST/SEMATECH e-Handbook, 1.3.5.2.
 */
export const meanEstimate = (mean: number, sd: number, count: number): Estimate => {
  if (count < 2 || !Number.isFinite(sd)) return { value: mean, low: null, high: null };
  const half = (studentTQuantile(0.975, count - 1) * sd) / Math.sqrt(count);
  return { value: mean, low: mean - half, high: mean + half };
};

/**
 * The 95 % interval of the median of `count` normal values: median ± t · sd/√n, widened by the ratio of the two standard errors,
 * which is √(π/2) for long samples and less for short and even ones (fitted to the tabled efficiencies of the median, within 1 %).
 */
export const medianEstimate = (median: number, sd: number, count: number): Estimate => {
  const { low, high } = meanEstimate(median, sd, count);
  if (low === null || high === null) return { value: median, low, high };
  const widening = Math.sqrt(((Math.PI / 2) * count) / (count + (count % 2 ? 0.47 : 1.36)));
  return { value: median, low: median - (median - low) * widening, high: median + (high - median) * widening };
};

/**
 * Degrees of freedom of the sample variance of `count` differences between neighbours of independent values: two neighbouring
 * differences share a value, so that there are fewer than n − 1. Satterthwaite's E²/V with the differences' covariance (2 on the
 * diagonal, −1 beside it): between (n − 1)/1.24 for a few and (n − 1)/1.5 for many.
 */
const differenceDegrees = (count: number): number => {
  const mean = 2 * count - 2 / count;
  const spread = 6 * count - 2 - 4 / count + 4 / count ** 2;
  return mean ** 2 / spread;
};

/** The 95 % interval of a sample standard deviation of differences between neighbours; see {@link differenceDegrees}. */
export const differenceSdEstimate = (sd: number, count: number): Estimate =>
  count < 2 || !Number.isFinite(sd) ? { value: sd, low: null, high: null } : sdInterval(sd, differenceDegrees(count));
