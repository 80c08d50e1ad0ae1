import type { Outcome } from '../schema/verdict';
import { USUAL_GROWTH_A_TENTH } from './usual-growth';

/** One judged repetition, as the curve sees it. */
export interface Tried {
  bpm: number;
  isClean: boolean;
  /** How much of what is allowed the unsteadiness took, 1 being just allowed; null where it came apart. */
  toleranceUsage: number | null;
  /** How many notes it has. */
  notes: number;
  /** How much it still tells, 0…1: older ones tell less. */
  weight: number;
}

/** A judged repetition as the curve sees it: what came apart has no unsteadiness to go by. */
export const triedFrom = (
  { bpm, outcome, toleranceUsage, notes }: { bpm: number; outcome: Outcome; toleranceUsage: number | null; notes: number },
  weight: number,
): Tried => ({
  bpm,
  isClean: outcome === 'clean',
  toleranceUsage: outcome === 'broken' ? null : toleranceUsage,
  notes: Math.max(1, notes),
  weight,
});

/** Logarithms of the unsteadiness beyond these tell no more. */
export const [MIN_LOG, MAX_LOG] = [-2.5, 1.8];
/** By how much the logarithm of the unsteadiness grows for each tenth of tempo; about the usual one in the middle. */
const GROWTHS = [0.14, 0.2, 0.28, 0.4, 0.56, 0.78, 1.1];
const USUAL_GROWTH = Math.log(USUAL_GROWTH_A_TENTH);
/** Where the unsteadiness stays however slow it is. */
const FLOORS = [-1.9, -1.5, -1.2, -0.9, -0.6, -0.3];
/** How the share of what is allowed falls with the tempo on the floor: not at all under a fixed window, in step with it under a share. */
const FLOOR_SLOPES = [0, 0.7];
/** The prior of the scatter between repetitions: its standard deviation in the logarithm, and what that is worth in repetitions. */
export const [USUAL_SCATTER, SCATTER_WORTH] = [0.2, 6];

export interface Unsteadiness {
  edge: number;
  growth: number;
  floor: number;
  slope: number;
}

/** The mean logarithm of the unsteadiness at a tempo: a floor, then a rise. `edge` is where the rise reaches what is allowed. */
export const logUnsteadiness = ({ edge, growth, floor, slope }: Unsteadiness, bpm: number): number =>
  Math.max(floor + slope * Math.log(bpm / edge), (10 * growth * (bpm - edge)) / edge);

export interface Weighted<Value> {
  value: Value;
  weight: number;
}

/** Weights from logarithms, the largest 1. */
export const weighted = <Value>(values: readonly Value[], logs: readonly number[]): Weighted<Value>[] => {
  const top = Math.max(...logs);
  return values
    .map((value, k) => ({ value, weight: Math.exp((logs[k] as number) - top) }))
    .filter(({ weight }) => weight > 1e-6);
};

/** The unsteadiness measured at one tempo, by their sums. */
interface Measured {
  bpm: number;
  /** Sums of the weights, and of the logarithms and their squares under them. */
  weight: number;
  sum: number;
  squares: number;
}

export const measuredAt = (tried: readonly Tried[]): Measured[] => {
  const byTempo = new Map<number, Measured>();
  for (const { bpm, toleranceUsage, weight } of tried) {
    if (toleranceUsage === null) continue;
    const log = logOf(toleranceUsage);
    const own = byTempo.get(bpm) ?? { bpm, weight: 0, sum: 0, squares: 0 };
    byTempo.set(bpm, {
      bpm,
      weight: own.weight + weight,
      sum: own.sum + weight * log,
      squares: own.squares + weight * log ** 2,
    });
  }
  return [...byTempo.values()];
};

/** The posterior of the unsteadiness over tempo on a grid; the scatter is integrated out (inverse gamma). `value.rest` is what the fit leaves. */
const fitUnsteadiness = (measured: readonly Measured[], edges: readonly number[]) => {
  const values: (Unsteadiness & { rest: number })[] = [];
  const logs: number[] = [];
  const count = measured.reduce((sum, { weight }) => sum + weight, 0);
  for (const edge of edges) {
    const shares = measured.map(({ bpm }) => ({ log: Math.log(bpm / edge), tenths: (10 * (bpm - edge)) / edge }));
    for (const growth of GROWTHS)
      for (const floor of FLOORS)
        for (const slope of FLOOR_SLOPES) {
          let rest = 0;
          for (let k = 0; k < measured.length; k += 1) {
            const { weight, sum, squares } = measured[k] as Measured;
            const { log, tenths } = shares[k] as (typeof shares)[number];
            const mean = Math.max(floor + slope * log, growth * tenths);
            rest += squares - 2 * mean * sum + weight * mean ** 2;
          }
          const prior = -((Math.log(growth / USUAL_GROWTH) / 0.6) ** 2) / 2;
          values.push({ edge, growth, floor, slope, rest: Math.max(0, rest) });
          logs.push(prior - ((SCATTER_WORTH + count) / 2) * Math.log(SCATTER_WORTH * USUAL_SCATTER ** 2 + Math.max(0, rest)));
        }
  }
  return { count, fits: weighted(values, logs) };
};

const logSteps = (from: number, to: number, count: number): number[] =>
  Array.from({ length: count }, (_, k) => from * (to / from) ** (k / (count - 1)));

/** First over all that may be, then closely where it may be. */
export const fittedUnsteadiness = (measured: readonly Measured[]) => {
  const tempos = measured.map(({ bpm }) => bpm);
  const coarse = fitUnsteadiness(measured, logSteps(0.5 * Math.min(...tempos), 2.2 * Math.max(...tempos), 30));
  const likely = coarse.fits.filter(({ weight }) => weight > 1e-3).map(({ value }) => value.edge);
  return fitUnsteadiness(measured, logSteps(0.95 * Math.min(...likely), 1.05 * Math.max(...likely), 44));
};

export const logOf = (toleranceUsage: number): number =>
  Math.min(MAX_LOG, Math.max(MIN_LOG, Math.log(Math.max(1e-3, toleranceUsage))));
