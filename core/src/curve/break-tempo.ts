import type { TempoRange } from './tempo-curve';

/** One note of a sweep. */
export interface SweptNote {
  /** The tempo there. */
  bpm: number;
  /** Its interval from the note before, as it was asked for. */
  intervalMs: number;
  /** How far it lay off its neighbours; null where it is missing, or they are. */
  errorMs: number | null;
  isMissing: boolean;
}

/** By how much the unsteadiness may grow for each tenth of tempo beyond the break. */
const GROWTHS = [1.25, 1.5, 2, 3, 5, 9];
/** Fewer notes on either side of a break tell nothing. */
const MIN_NOTES = 12;
const PLACES = 90;
/** Errors are taken to lie about their spread like Student's t with so many degrees: one slip is no break. */
const DEGREES = 7;
/** Neighbouring errors share notes: their squares tell a little less than independent ones would. */
const SHARED = 1.3;
/** How much better than without a break it must fit, in logarithms of likelihood. Set so that runs without one stay silent 97 times in 100. */
const MIN_GAIN = 4;
/** What lies so near to the best fit is in the 90 % interval: half the quantile of chi-square with one degree, and a third for errors that share notes. */
const INTERVAL_DROP = 1.85;
/** A break that does not make the unsteadiness grow by this much to the end of the sweep is none. */
const MIN_RISE = 1.7;

/**
 * How well errors that grow by known factors fit with the spread that suits them best, as a logarithm of likelihood. By the usual iteration
 * for the scale of a t distribution.
 */
const spreadLog = (errors: readonly number[], factors: readonly number[]): number => {
  const squares = errors.map((error, k) => (error / (factors[k] as number)) ** 2);
  const count = errors.length;
  let scale = 0;
  for (const square of squares) scale += Math.min(square, 1e6) / count;
  for (let round = 0; round < 6; round += 1) {
    let sum = 0;
    for (const square of squares) sum += ((DEGREES + 1) * square) / (DEGREES + square / scale);
    scale = Math.max(1e-6, sum / count);
  }
  let log = -(count / 2) * Math.log(scale);
  squares.forEach((square, k) => {
    log -= Math.log(factors[k] as number) + ((DEGREES + 1) / 2) * Math.log(1 + square / scale / DEGREES);
  });
  return log;
};

/** Beyond the break, notes may be missing more often by so much for each tenth of tempo. */
const MISSING_RISES = [0, 0.03, 0.08, 0.2, 0.5];

/** How well missing notes fit a rate that rises from a break on; half a note is added to either side, so that none and all are possible. */
const missingLog = (notes: readonly SweptNote[], breakBpm: number): number => {
  const before = notes.filter(({ bpm }) => bpm <= breakBpm);
  const rate = (before.filter(({ isMissing }) => isMissing).length + 0.5) / (before.length + 1);
  const logs = MISSING_RISES.map((rise) =>
    notes.reduce((sum, { bpm, isMissing }) => {
      const share = Math.min(0.95, rate + rise * tenthsAbove(bpm, breakBpm));
      return sum + Math.log(isMissing ? share : 1 - share);
    }, 0),
  );
  return Math.max(...logs);
};

/** So far off, as a share of the interval, over so many notes: from there on nothing can be told but that it is broken. */
const [APART_SHARE, APART_NOTES] = [0.22, 8];

/** The notes of a sweep up to where it fell apart altogether. */
const untilApart = (notes: readonly SweptNote[]): readonly SweptNote[] => {
  const isWild = ({ errorMs, intervalMs, isMissing }: SweptNote) =>
    isMissing || Math.abs(errorMs ?? 0) > APART_SHARE * intervalMs;
  const end = notes.findIndex(
    (_, k) => notes.slice(k, k + APART_NOTES).filter(isWild).length > APART_NOTES / 2 && k + APART_NOTES <= notes.length,
  );
  return end < 0 ? notes : notes.slice(0, end + APART_NOTES);
};

const tenthsAbove = (bpm: number, breakBpm: number): number => Math.max(0, (bpm / breakBpm - 1) / 0.1);

const growthAt = (bpm: number, breakBpm: number, growth: number): number => growth ** tenthsAbove(bpm, breakBpm);

interface Fit {
  breakBpm: number;
  log: number;
  rise: number;
}

/**
 * Where evenness leaves its floor in a run from slow to fast, by maximum likelihood: the unsteadiness of intervals is the same up to the break
 * and grows with the tempo from there on, and notes are missing more often. Null where a run without a break explains the playing as well.
 */
export const breakTempo = (swept: readonly SweptNote[]): TempoRange | null => {
  const notes = untilApart(swept);
  const told = notes.flatMap(({ bpm, errorMs }) => (errorMs === null ? [] : [{ bpm, errorMs }]));
  if (told.length < 2 * MIN_NOTES) return null;
  const errors = told.map(({ errorMs }) => errorMs);
  const tempos = notes.map(({ bpm }) => bpm);
  const [lowest, highest] = [Math.min(...tempos), Math.max(...tempos)];
  const level = errors.map(() => 1);
  const even = spreadLog(errors, level) / SHARED + missingLog(notes, highest);

  const fits: Fit[] = [];
  for (let k = 0; k < PLACES; k += 1) {
    const breakBpm = lowest * (highest / lowest) ** ((k + 0.5) / PLACES);
    const beyond = tempos.filter((bpm) => bpm > breakBpm).length;
    if (beyond < MIN_NOTES || notes.length - beyond < MIN_NOTES) continue;
    const missed = missingLog(notes, breakBpm);
    for (const growth of GROWTHS) {
      const factors = told.map(({ bpm }) => growthAt(bpm, breakBpm, growth));
      const log = spreadLog(errors, factors) / SHARED + missed;
      fits.push({ breakBpm, log, rise: growthAt(highest, breakBpm, growth) });
    }
  }
  const best = fits.reduce<Fit | null>((top, fit) => (top === null || fit.log > top.log ? fit : top), null);
  if (!best || best.log - even < MIN_GAIN || best.rise < MIN_RISE) return null;
  const near = fits.filter(({ log }) => log > best.log - INTERVAL_DROP).map(({ breakBpm }) => breakBpm);
  // Half a place on either side belongs to it.
  const half = (highest / lowest) ** (0.5 / PLACES);
  return { bpm: best.breakBpm, low: Math.min(...near) / half, high: Math.max(...near) * half };
};
