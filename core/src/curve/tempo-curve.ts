import { quantileSorted } from 'd3-array';
import { randomGamma } from 'd3-random';
import { chance } from '../stats/random';
import { median } from '../stats/summary';
import { fittedJudging, insideChance, type Judging, STAKES, slipAt, withoutSlips } from './judging-fit';
import {
  fittedUnsteadiness,
  logUnsteadiness,
  MIN_LOG,
  measuredAt,
  SCATTER_WORTH,
  type Tried,
  type Unsteadiness,
  USUAL_SCATTER,
  type Weighted,
} from './unsteadiness-fit';

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

/**
 * No player is as the model has them, so that a repetition counts for less than it would. Chosen as the least that leaves the intervals of
 * simulated learners of any kind right in no more than 95 of 100 (88 at 1, 95 at a half); for players of other kinds docs/right.md tells what it comes to.
 */
const BELIEVED = 0.6;

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
 *
 * @param believed how much a repetition counts for, 0…1: 1 as if players were as the model has them.
 */
export const tempoCurve = (tried: readonly Tried[], believed = BELIEVED): TempoCurve | null => {
  const weighty = tried.filter(({ weight }) => weight > 0.01).map((one) => ({ ...one, weight: believed * one.weight }));
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
