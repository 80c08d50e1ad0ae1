import jStat from 'jstat';
import { type Detrended, TREND_TERMS } from './detrended';

/** How much of the unsteadiness is the same at the same notes, and how surely. */
export interface Systematic {
  /** Sum of squares of the positions' means, in ms². */
  squares: number;
  /** Of that, what chance alone would give. */
  byChance: number;
  /** The chance of as much where nothing is the same. */
  probability: number;
}

/**
 * An F test of the positions' means against what differs from repetition to repetition. Its degrees of freedom are fewer where neighbours
 * hang together or notes are unequally unsteady (Box's epsilon, with the correlations as they were measured). Sources: NIST/SEMATECH
 * e-Handbook 7.4.3; Box, Annals of Mathematical Statistics 25 (1954).
 */
export const systematicOf = ({ means, rest, restVariance, correlations, repetitions }: Detrended): Systematic => {
  const positions = means.length;
  const squares = means.reduce((sum, value) => sum + value ** 2, 0);
  const degrees = positions - TREND_TERMS;
  const byChance = (degrees * restVariance) / repetitions;
  const variances = means.map((_, k) => rest.reduce((sum, row) => sum + (row[k] ?? 0) ** 2, 0));
  const whole = variances.reduce((sum, value) => sum + value, 0);
  // From few repetitions the variances differ by chance alone: that much is taken off again.
  const chanceShare = 1 + 2 / Math.max(1, repetitions - 1);
  const uneven = Math.max(1, (positions * variances.reduce((sum, value) => sum + value ** 2, 0)) / whole ** 2 / chanceShare);
  const together = correlations.reduce((sum, rho, lag) => sum + 2 * (1 - (lag + 1) / positions) * rho ** 2, 1);
  const epsilon = whole > 0 ? 1 / (uneven * together) : 1;
  const f = byChance > 0 ? squares / byChance : Number.POSITIVE_INFINITY;
  const [above, below] = [epsilon * degrees, epsilon * degrees * (repetitions - 1)];
  return { squares, byChance, probability: Number.isFinite(f) ? 1 - jStat.centralF.cdf(f, above, below) : 0 };
};
