import type { NoteResult } from '../schema/measures';
import { chance } from '../stats/random';
import { mean } from '../stats/summary';
import { LEAST_REPETITIONS } from './usable';

/** A step from one note to the next, over all repetitions. */
export interface Link {
  /** Index of the note that the step leaves from; it goes to the next. */
  from: number;
  count: number;
  /** Mean of (played − notated) length in ms: negative is short. */
  biasMs: number;
  /** Mean absolute error less that of the repetition's other steps, in ms, with its bootstrap 95 % interval. */
  excessMs: number;
  lowMs: number;
  highMs: number;
  /** Whether the excess stands clear of chance even though the worst of many steps was picked. */
  standsOut: boolean;
}

const DRAWS = 2000;

/** Errors (played − notated, ms) of each step of a repetition; null where either note was missed. */
export const stepErrorsMs = (notes: readonly NoteResult[]): (number | null)[] =>
  notes.slice(1).map((note, k) => {
    const before = notes[k] as NoteResult;
    if (note.onsetS === null || before.onsetS === null) return null;
    return (note.onsetS - before.onsetS - (note.expectedS - before.expectedS)) * 1000;
  });

const quantile = (sorted: Float64Array, share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.max(0, Math.round(share * (sorted.length - 1))))] as number;

/**
 * The steps of a grid, the weakest first: by how much a step is worse than the other steps of the same repetitions.
 * The interval comes from resampling whole repetitions (percentile bootstrap, 2000 draws, a fixed seed); `standsOut` asks
 * for an interval that is Bonferroni-corrected for the number of steps. Empty below four repetitions.
 * Source of the bootstrap: Efron & Tibshirani, An Introduction to the Bootstrap (1993), chapter 13.
 */
export const weakLinks = (repetitions: readonly (readonly NoteResult[])[], seed = 1): Link[] => {
  if (repetitions.length < LEAST_REPETITIONS) return [];
  const errors = repetitions.map(stepErrorsMs);
  const steps = errors[0]?.length ?? 0;
  const excess = errors.map((row) => {
    const sizes = row.map((error) => (error === null ? null : Math.abs(error)));
    const known = sizes.filter((size) => size !== null);
    const sum = known.reduce((total, size) => total + size, 0);
    return sizes.map((size) => (size === null || known.length < 2 ? null : size - (sum - size) / (known.length - 1)));
  });
  const { uniform } = chance(seed);
  const draws = Array.from({ length: DRAWS }, () => repetitions.map(() => Math.floor(uniform() * repetitions.length)));
  const links = Array.from({ length: steps }, (_, k): Link | null => {
    const own = excess.flatMap((row) => row[k] ?? []);
    if (own.length < LEAST_REPETITIONS) return null;
    const means = new Float64Array(DRAWS);
    draws.forEach((draw, d) => {
      let sum = 0;
      let count = 0;
      for (const repetition of draw) {
        const value = excess[repetition]?.[k];
        if (value === null || value === undefined) continue;
        sum += value;
        count += 1;
      }
      means[d] = count > 0 ? sum / count : 0;
    });
    means.sort();
    return {
      from: repetitions[0]?.[k]?.index ?? k,
      count: own.length,
      biasMs: mean(errors.flatMap((row) => row[k] ?? [])),
      excessMs: mean(own),
      lowMs: quantile(means, 0.025),
      highMs: quantile(means, 0.975),
      standsOut: quantile(means, 0.025 / steps) > 0,
    };
  });
  return links.filter((link) => link !== null).sort((a, b) => b.excessMs - a.excessMs);
};
