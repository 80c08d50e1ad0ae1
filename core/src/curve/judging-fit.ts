import { median } from '../stats/summary';
import { fittedUnsteadiness, logOf, logUnsteadiness, measuredAt, type Tried, weighted } from './unsteadiness-fit';

/** How often something else than unsteadiness spoils a repetition, and by how much more for each tenth of tempo near the edge; with priors. */
const SLIPS: readonly (readonly [share: number, prior: number])[] = [
  [0.005, 0.3],
  [0.02, 0.25],
  [0.04, 0.2],
  [0.07, 0.12],
  [0.11, 0.07],
  [0.17, 0.04],
  [0.26, 0.02],
];
const SLIP_RISES: readonly (readonly [share: number, prior: number])[] = [
  [0, 0.5],
  [0.03, 0.3],
  [0.08, 0.15],
  [0.2, 0.05],
];
/** A repetition counts as if it had so many times its notes, since they do not unsteadiness quite independently; with the prior of each. */
export const STAKES: readonly (readonly [share: number, prior: number])[] = [
  [0.6, 0.25],
  [1, 0.5],
  [1.6, 0.25],
];
/** So many of its notes may lie outside the window, see verdict/checks.ts. */
const OUTSIDE_SHARE = 0.05;

export interface Judging {
  /** Which of {@link STAKES}. */
  stake: number;
  slip: number;
  rise: number;
}

/** The standard normal distribution by its usual logistic approximation (error below 0.01). */
const below = (z: number): number => 1 / (1 + Math.exp(-z * (1.5976 + 0.070566 * z * z)));

/** The chance that few enough notes fall outside the window, which is two spreads wide where all that is allowed is taken; 0 beyond that. */
export const insideChance = (log: number, notes: number): number => {
  if (log > 0) return 0;
  const outside = 2 * (1 - below(2 * Math.exp(-log)));
  const count = Math.max(1, Math.round(notes));
  // Of a binomial distribution, term by term.
  let term = (1 - outside) ** count;
  let sum = term;
  for (let k = 1; k <= OUTSIDE_SHARE * count; k += 1) {
    term *= ((count - k + 1) / k) * (outside / (1 - outside));
    sum += term;
  }
  return Math.min(1, sum);
};

export const slipAt = ({ slip, rise }: Judging, share: number): number =>
  Math.min(0.95, slip + rise * Math.max(0, (share - 0.9) / 0.1));

/** An unsteadiness so many times the usual scatter above what it is at its tempo is a slip, which one note may make. */
const SLIP_SCATTERS = 3;
const MIN_SCATTER = 0.12;

/** Repetitions as they are, but for the unsteadiness of those that slipped: it tells of the slip only. */
export const withoutSlips = (tried: readonly Tried[]): Tried[] => {
  const { fits } = fittedUnsteadiness(measuredAt(tried));
  const { value: best } = fits.reduce((top, one) => (one.weight > top.weight ? one : top));
  const above = ({ toleranceUsage, bpm }: Tried) =>
    toleranceUsage === null ? 0 : logOf(toleranceUsage) - logUnsteadiness(best, bpm);
  const scatter = Math.max(MIN_SCATTER, 1.4826 * median(tried.map((one) => Math.abs(above(one)))));
  return tried.map((one) => (!one.isClean && above(one) > SLIP_SCATTERS * scatter ? { ...one, toleranceUsage: null } : one));
};

/** The posterior of how unsteadiness becomes a verdict. */
export const fittedJudging = (tried: readonly Tried[], edge: number) => {
  const values: Judging[] = [];
  const logs: number[] = [];
  for (const [stake, [share, prior]] of STAKES.entries()) {
    // What was too unsteady is not clean in any case; what came apart did not do so by being unsteady.
    const told = tried.flatMap(({ bpm, isClean, toleranceUsage, notes, weight }) => {
      const inside = toleranceUsage === null ? 1 : insideChance(logOf(toleranceUsage), share * notes);
      return inside === 0 ? [] : [{ at: bpm / edge, isClean, inside, weight }];
    });
    for (const [slip, slipPrior] of SLIPS)
      for (const [rise, risePrior] of SLIP_RISES) {
        const own = { stake, slip, rise };
        let log = Math.log(prior * slipPrior * risePrior);
        for (const { at, isClean, inside, weight } of told) {
          const clean = (1 - slipAt(own, at)) * inside;
          log += weight * Math.log(Math.max(1e-4, isClean ? clean : 1 - clean));
        }
        values.push(own);
        logs.push(log);
      }
  }
  return weighted(values, logs);
};
