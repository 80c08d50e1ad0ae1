import { createOnsetCurves, LONG_CURVES, LONG_EVERY, LONG_GROUPS, SHORT_CURVES } from './onset-curves';

/** Frames around a candidate that are looked at; what comes after it sets how long the stream waits. */
const SHORT_BEFORE = 10;
const SHORT_AFTER = 10;
const LONG_BEFORE = 5;
const LONG_AFTER = 2;

/** Numbers that describe a candidate. The last one tells whether it falls between two long frames. */
export const CANDIDATE_FEATURES =
  (SHORT_BEFORE + 1 + SHORT_AFTER) * SHORT_CURVES + (LONG_BEFORE + 1 + LONG_AFTER) * LONG_CURVES + 1;

/** A place where a note may begin, with the curves around it. */
export interface OnsetCandidate {
  /** Stream position in samples, at the resolution of a frame. */
  at: number;
  features: Float32Array;
}

/** A stream of candidates. */
export interface CandidateFinder {
  push(block: Float32Array): OnsetCandidate[];
  finish(): OnsetCandidate[];
  /** Stream position up to which all candidates were offered. */
  doneTo(): number;
}

/** Rows kept; more than a candidate looks back on and forward to. */
const KEPT_ROWS = 128;

/** The latest rows by frame number; the old ones are written over. */
const createRows = (width: number) => {
  const empty = new Float32Array(width);
  const rows = Array.from({ length: KEPT_ROWS }, () => new Float32Array(width));
  let end = 0;
  return {
    /** Has `write` fill the next row; does not count it where that returns false. */
    push(write: (row: Float32Array) => boolean): boolean {
      const written = write(rows[end % KEPT_ROWS] as Float32Array);
      if (written) end += 1;
      return written;
    },
    end: () => end,
    row: (frame: number): Float32Array =>
      frame < 0 || frame >= end || frame < end - KEPT_ROWS ? empty : (rows[frame % KEPT_ROWS] as Float32Array),
  };
};

const rise = (row: Float32Array, groups: number): number => {
  let sum = 0;
  for (let group = 0; group < groups; group += 1) sum += row[group] as number;
  return sum;
};

const isTop = (value: (frame: number) => number, frame: number, reach: number, least: number): boolean => {
  const own = value(frame);
  if (own < least) return false;
  for (let k = 1; k <= reach; k += 1) if (value(frame - k) >= own || value(frame + k) > own) return false;
  return true;
};

/** Rises below these are not even looked at: nothing sounds. In log2 units, mean over the bands. */
const LEAST_SHORT_RISE = 0.04;
const LEAST_LONG_RISE = 0.03;
const LEAST_COLOUR_CHANGE = 0.02;

/**
 * Walks over a sound and offers every place where a note may begin: wherever the short rise, the long rise or the change of
 * colour tops. Far more places than notes; whether one is a note is decided from its features. A candidate is offered 70 ms
 * after it at the latest, the same however the sound is cut into blocks.
 */
export const createCandidateFinder = (sampleRateHz: number): CandidateFinder => {
  const curves = createOnsetCurves(sampleRateHz);
  const short = createRows(SHORT_CURVES);
  const long = createRows(LONG_CURVES);
  let next = 0;
  const shortRise = (frame: number) => rise(short.row(frame), SHORT_CURVES - 2);
  const longRise = (frame: number) => rise(long.row(frame), LONG_GROUPS);
  const colour = (frame: number) => long.row(frame)[LONG_CURVES - 1] as number;

  const isCandidate = (frame: number): boolean => {
    if (isTop(shortRise, frame, 2, LEAST_SHORT_RISE)) return true;
    if (frame % LONG_EVERY !== 0) return false;
    const slow = frame / LONG_EVERY;
    return isTop(longRise, slow, 1, LEAST_LONG_RISE) || isTop(colour, slow, 1, LEAST_COLOUR_CHANGE);
  };

  const featuresAt = (frame: number): Float32Array => {
    const features = new Float32Array(CANDIDATE_FEATURES);
    let at = 0;
    for (let k = -SHORT_BEFORE; k <= SHORT_AFTER; k += 1, at += SHORT_CURVES) features.set(short.row(frame + k), at);
    const slow = Math.floor(frame / LONG_EVERY);
    for (let k = -LONG_BEFORE; k <= LONG_AFTER; k += 1, at += LONG_CURVES) features.set(long.row(slow + k), at);
    features[at] = frame % LONG_EVERY;
    return features;
  };

  const collect = (shortEnd: number, longEnd: number): OnsetCandidate[] => {
    const found: OnsetCandidate[] = [];
    for (; next + SHORT_AFTER < shortEnd && Math.floor(next / LONG_EVERY) + LONG_AFTER < longEnd; next += 1) {
      if (isCandidate(next)) found.push({ at: next * curves.hop, features: featuresAt(next) });
    }
    return found;
  };

  /** Rows are taken a few at a time, so that none is forgotten before it was used. */
  const drain = (): OnsetCandidate[] => {
    const found: OnsetCandidate[] = [];
    for (;;) {
      let taken = 0;
      for (; taken < 32 && short.end() < next + 64; taken += 1) {
        if (!short.push(curves.nextShort)) break;
      }
      while (long.end() * LONG_EVERY < short.end()) {
        if (!long.push(curves.nextLong)) break;
      }
      found.push(...collect(short.end(), long.end()));
      if (taken === 0) return found;
    }
  };

  return {
    push(block) {
      curves.push(block);
      return drain();
    },
    finish() {
      curves.finish();
      // What begins in the last 50 ms has no sound to be judged by.
      return [...drain(), ...collect(short.end(), Number.POSITIVE_INFINITY)];
    },
    doneTo: () => next * curves.hop,
  };
};
