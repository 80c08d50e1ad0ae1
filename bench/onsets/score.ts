import { median, sampleSd } from '@isochron/core/analysis';

/** How well found onsets agree with the true ones. */
export interface Score {
  hits: number;
  missed: number;
  extra: number;
  /** Timing errors of the hits about the file's own median, in ms. */
  sdMs: number;
  medianMs: number;
}

const WINDOW_S = 0.025;

/** One-to-one pairs within the window, nearest first in time order: both lists ascend. */
export const pairs = (
  truth: readonly number[],
  found: readonly number[],
  offsetS: number,
  windowS: number,
): [number, number][] => {
  const out: [number, number][] = [];
  let j = 0;
  for (const onset of truth) {
    while (j < found.length && (found[j] as number) - offsetS < onset - windowS) j += 1;
    if (j < found.length && (found[j] as number) - offsetS <= onset + windowS) {
      out.push([onset, found[j] as number]);
      j += 1;
    }
  }
  return out;
};

/** Scores onsets one-to-one within ±25 ms (or another window), after the file's median offset (found within ±60 ms). */
export const score = (truth: readonly number[], found: readonly number[], windowS = WINDOW_S): Score => {
  const near = truth.flatMap((onset) => {
    const differences = found.map((time) => time - onset).filter((difference) => Math.abs(difference) < 0.06);
    return differences.length ? [differences.reduce((a, b) => (Math.abs(b) < Math.abs(a) ? b : a))] : [];
  });
  const offsetS = near.length ? median(near) : 0;
  const matched = pairs(truth, found, offsetS, windowS);
  const errorsMs = matched.map(([onset, time]) => (time - onset) * 1000);
  return {
    hits: matched.length,
    missed: truth.length - matched.length,
    extra: found.length - matched.length,
    sdMs: errorsMs.length > 1 ? sampleSd(errorsMs) : Number.NaN,
    medianMs: errorsMs.length ? median(errorsMs) : Number.NaN,
  };
};

/** F-measure over several files. */
export const fMeasure = (scores: readonly Score[]): number => {
  const sum = (read: (one: Score) => number) => scores.reduce((total, one) => total + read(one), 0);
  return (2 * sum((one) => one.hits)) / (2 * sum((one) => one.hits) + sum((one) => one.missed) + sum((one) => one.extra));
};

/** Median timing SD over the files that have one. */
export const medianSdMs = (scores: readonly Score[]): number =>
  median(scores.map((one) => one.sdMs).filter((value) => Number.isFinite(value)));
