import { quantileSorted } from 'd3-array';
import { randomGamma } from 'd3-random';
import type { Outcome } from '../schema/verdict';
import { chance } from '../stats/random';
import { median } from '../stats/summary';
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

/** A tempo with the 90 % interval that it lies in, in beats a minute. */
export interface TempoRange {
  bpm: number;
  low: number;
  high: number;
}

/** How the chance of a clean repetition falls with the tempo, as far as repetitions tell. */
export interface TempoCurve {
  /** The chance that a repetition at a tempo is clean, 0…1. */
  cleanChance(bpm: number): number;
  /** The fastest tempo at which a repetition is clean with this chance; null where the repetitions do not tell. */
  tempoFor(wanted: number): TempoRange | null;
  /** That tempo in each of many cases that the repetitions allow; null where it is none. */
  draws(wanted: number): (number | null)[];
  /** The unsteadiness as a share of what is allowed, in the middle of those cases. */
  unsteadinessAt(bpm: number): number;
  /** Clean 9 times in 10. */
  easy(): TempoRange | null;
  /** Clean every other time. */
  edge(): TempoRange | null;
}

/** Chances that name the two tempos of a curve. */
export const EASY_CHANCE = 0.9;
export const EDGE_CHANCE = 0.5;

const DRAWS = 240;
/** An interval wider than this, high against low, tells nothing. */
const WIDEST = 1.5;
/** Where a chance is reached at no tempo in so many of what may be, it has no tempo. */
const MIN_KNOWN = 0.7;
/** Fewer repetitions than this tell nothing, whatever they are. */
const MIN_REPETITIONS_OF_PASSAGE = 6;

/** Logarithms of the unsteadiness beyond these tell no more. */
const [MIN_LOG, MAX_LOG] = [-2.5, 1.8];
/** By how much the logarithm of the unsteadiness grows for each tenth of tempo; about the usual one in the middle. */
const GROWTHS = [0.14, 0.2, 0.28, 0.4, 0.56, 0.78, 1.1];
const USUAL_GROWTH = Math.log(USUAL_GROWTH_A_TENTH);
/** Where the unsteadiness stays however slow it is. */
const FLOORS = [-1.9, -1.5, -1.2, -0.9, -0.6, -0.3];
/** How the share of what is allowed falls with the tempo on the floor: not at all under a fixed window, in step with it under a share. */
const FLOOR_SLOPES = [0, 0.7];
/** The prior of the scatter between repetitions: its standard deviation in the logarithm, and what that is worth in repetitions. */
const [USUAL_SCATTER, SCATTER_WORTH] = [0.2, 6];

interface Unsteadiness {
  edge: number;
  growth: number;
  floor: number;
  slope: number;
}

/** The mean logarithm of the unsteadiness at a tempo: a floor, then a rise. `edge` is where the rise reaches what is allowed. */
const logUnsteadiness = ({ edge, growth, floor, slope }: Unsteadiness, bpm: number): number =>
  Math.max(floor + slope * Math.log(bpm / edge), (10 * growth * (bpm - edge)) / edge);

interface Weighted<Value> {
  value: Value;
  weight: number;
}

/** Weights from logarithms, the largest 1. */
const weighted = <Value>(values: readonly Value[], logs: readonly number[]): Weighted<Value>[] => {
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

const measuredAt = (tries: readonly Tried[]): Measured[] => {
  const byTempo = new Map<number, Measured>();
  for (const { bpm, toleranceUsage, weight } of tries) {
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
const fittedUnsteadiness = (measured: readonly Measured[]) => {
  const tempos = measured.map(({ bpm }) => bpm);
  const coarse = fitUnsteadiness(measured, logSteps(0.5 * Math.min(...tempos), 2.2 * Math.max(...tempos), 30));
  const likely = coarse.fits.filter(({ weight }) => weight > 1e-3).map(({ value }) => value.edge);
  return fitUnsteadiness(measured, logSteps(0.95 * Math.min(...likely), 1.05 * Math.max(...likely), 44));
};

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
const STAKES: readonly (readonly [share: number, prior: number])[] = [
  [0.6, 0.25],
  [1, 0.5],
  [1.6, 0.25],
];
/** So many of its notes may lie outside the window, see verdict/checks.ts. */
const OUTSIDE_SHARE = 0.05;

interface Judging {
  /** Which of {@link STAKES}. */
  stake: number;
  slip: number;
  rise: number;
}

/** The standard normal distribution by its usual logistic approximation (error below 0.01). */
const below = (z: number): number => 1 / (1 + Math.exp(-z * (1.5976 + 0.070566 * z * z)));

/** The chance that few enough notes fall outside the window, which is two spreads wide where all that is allowed is taken; 0 beyond that. */
const insideChance = (log: number, notes: number): number => {
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

const slipAt = ({ slip, rise }: Judging, share: number): number =>
  Math.min(0.95, slip + rise * Math.max(0, (share - 0.9) / 0.1));

/** An unsteadiness so many times the usual scatter above what it is at its tempo is a slip, which one note may make. */
const SLIP_SCATTERS = 3;
const MIN_SCATTER = 0.12;

/** Repetitions as they are, but for the unsteadiness of those that slipped: it tells of the slip only. */
const withoutSlips = (tries: readonly Tried[]): Tried[] => {
  const { fits } = fittedUnsteadiness(measuredAt(tries));
  const { value: best } = fits.reduce((top, one) => (one.weight > top.weight ? one : top));
  const above = ({ toleranceUsage, bpm }: Tried) =>
    toleranceUsage === null ? 0 : logOf(toleranceUsage) - logUnsteadiness(best, bpm);
  const scatter = Math.max(MIN_SCATTER, 1.4826 * median(tries.map((one) => Math.abs(above(one)))));
  return tries.map((one) => (!one.isClean && above(one) > SLIP_SCATTERS * scatter ? { ...one, toleranceUsage: null } : one));
};

/** The posterior of how unsteadiness becomes a verdict. */
const fittedJudging = (tries: readonly Tried[], edge: number) => {
  const values: Judging[] = [];
  const logs: number[] = [];
  for (const [stake, [share, prior]] of STAKES.entries()) {
    // What unsteadiness too much is not clean in any case; what came apart did not do so by wobbling.
    const told = tries.flatMap(({ bpm, isClean, toleranceUsage, notes, weight }) => {
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

const logOf = (toleranceUsage: number): number =>
  Math.min(MAX_LOG, Math.max(MIN_LOG, Math.log(Math.max(1e-3, toleranceUsage))));

/** Draws by weight at evenly spread places: less noisy than draws one by one. */
const draws = <Value>(from: readonly Weighted<Value>[], offset: () => number): Value[] => {
  const total = from.reduce((sum, { weight }) => sum + weight, 0);
  const out: Value[] = [];
  let passed = 0;
  let k = 0;
  for (let n = 0; n < DRAWS; n += 1) {
    const place = ((n + offset()) / DRAWS) * total;
    while (k < from.length - 1 && passed + (from[k]?.weight ?? 0) < place) {
      passed += from[k]?.weight ?? 0;
      k += 1;
    }
    out.push((from[k] as Weighted<Value>).value);
  }
  return out;
};

interface Draw extends Unsteadiness, Judging {
  /** How much repetitions scatter: the standard deviation of the logarithm of the unsteadiness. */
  scatter: number;
  /** The chance that few enough notes fall outside, by the logarithm of the unsteadiness. */
  inside: readonly number[];
}

/** Places of a standard normal distribution, each with the same chance. */
const NORMAL_PLACES = [-1.83, -1.28, -0.97, -0.73, -0.52, -0.34, -0.17, 0, 0.17, 0.34, 0.52, 0.73, 0.97, 1.28, 1.83];
const TABLE_STEP = 0.02;
const TABLE_LENGTH = 1 + Math.round(-MIN_LOG / TABLE_STEP);
/** {@link insideChance} by steps down from 0, for each of {@link STAKES}. */
const insideTables = (notes: number): number[][] =>
  STAKES.map(([share]) => Array.from({ length: TABLE_LENGTH }, (_, k) => insideChance(-k * TABLE_STEP, share * notes)));

const cleanIn = (draw: Draw, bpm: number): number => {
  const centre = logUnsteadiness(draw, bpm);
  let sum = 0;
  for (const place of NORMAL_PLACES) {
    const log = centre + draw.scatter * place;
    if (log <= 0) sum += draw.inside[Math.min(TABLE_LENGTH - 1, Math.round(-log / TABLE_STEP))] as number;
  }
  return ((1 - slipAt(draw, bpm / draw.edge)) * sum) / NORMAL_PLACES.length;
};

/** The fastest tempo with a chance in one draw; null where no tempo has it. */
const tempoIn = (draw: Draw, wanted: number): number | null => {
  let low = 0.3 * draw.edge;
  let high = 2 * draw.edge;
  if (cleanIn(draw, low) < wanted) return null;
  for (let k = 0; k < 14; k += 1) {
    const middle = (low + high) / 2;
    if (cleanIn(draw, middle) >= wanted) low = middle;
    else high = middle;
  }
  return low;
};

const rangeOf = (tempos: readonly (number | null)[]): TempoRange | null => {
  const known = tempos.filter((bpm) => bpm !== null).sort((a, b) => a - b);
  if (known.length < MIN_KNOWN * tempos.length) return null;
  const [low, bpm, high] = [0.05, 0.5, 0.95].map((share) => quantileSorted(known, share) as number) as [number, number, number];
  return high > WIDEST * low ? null : { bpm, low, high };
};

/**
 * The tempo curve from repetitions, by Bayes' rule: the logarithm of the unsteadiness rests on a floor and rises beyond it, repetitions scatter
 * about it, and a repetition is clean where its unsteadiness is small enough and nothing slips. How fast it rises, how much repetitions
 * scatter and how often something slips are all taken as unknown, with wide priors; the same repetitions always give the same curve.
 * Null where too few repetitions tell.
 */
export const tempoCurve = (tries: readonly Tried[]): TempoCurve | null => {
  const weighty = tries.filter(({ weight }) => weight > 0.01);
  if (weighty.filter(({ toleranceUsage }) => toleranceUsage !== null).length < MIN_REPETITIONS_OF_PASSAGE) return null;
  const told = withoutSlips(weighty);
  const measured = measuredAt(told);
  const { count, fits } = fittedUnsteadiness(measured);
  const total = fits.reduce((sum, { weight }) => sum + weight, 0);
  const edge = Math.exp(fits.reduce((sum, { value, weight }) => sum + (weight / total) * Math.log(value.edge), 0));
  const { uniform } = chance(1);
  const gamma = randomGamma.source(uniform);
  const judging = draws(fittedJudging(told, edge), uniform);
  const fitted = draws(fits, uniform);
  const tables = insideTables(told.at(-1)?.notes ?? 1);
  const scatter = gamma((SCATTER_WORTH + count) / 2, 1);
  const joint = fitted.map((unsteadiness, k): Draw => {
    // Both lists are in the order of their grids: neighbours must not always meet.
    const judged = judging[(k * 101 + 17) % DRAWS] as Judging;
    const inside = tables[judged.stake] as number[];
    return {
      ...unsteadiness,
      ...judged,
      inside,
      scatter: Math.sqrt((SCATTER_WORTH * USUAL_SCATTER ** 2 + unsteadiness.rest) / 2 / scatter()),
    };
  });
  const known = new Map<number, (number | null)[]>();
  const drawn = (wanted: number) => {
    const tempos = known.get(wanted) ?? joint.map((draw) => tempoIn(draw, wanted));
    known.set(wanted, tempos);
    return tempos;
  };
  const tempoFor = (wanted: number) => rangeOf(drawn(wanted));
  return {
    cleanChance: (bpm) => joint.reduce((sum, draw) => sum + cleanIn(draw, bpm), 0) / joint.length,
    tempoFor,
    draws: drawn,
    unsteadinessAt: (bpm) => Math.exp(median(joint.map((draw) => logUnsteadiness(draw, bpm)))),
    easy: () => tempoFor(EASY_CHANCE),
    edge: () => tempoFor(EDGE_CHANCE),
  };
};
