import { changePoint } from './change-point';
import { burg, predictionError } from './linear-prediction';

/** Around the coarse frame's middle: the stretch searched for the onset, in seconds. */
export const SEARCH_BEFORE_S = 0.03;
export const SEARCH_AFTER_S = 0.02;
/** The stretch before the search from which the ringing sound is learnt. */
export const LEARN_S = 0.025;
const ORDER = 24;

/** An attack steps up at least this far in what prediction cannot explain; less is a slow rise. */
const SHARP_STEP_DB = 6;
const STEP_S = 0.005;

/** Mean power, never quite zero. */
const powerOf = (part: Float32Array | Float64Array): number => {
  let sum = 0;
  for (const value of part) sum += value * value;
  return sum / Math.max(1, part.length) + 1e-16;
};

/** How far the power rises at a sample, comparing 5 ms before with 5 ms after, in dB. */
const stepDb = (error: Float64Array, at: number, sampleRateHz: number): number => {
  const reach = Math.round(STEP_S * sampleRateHz);
  const powerOf = (part: Float64Array) =>
    part.reduce((sum, value) => sum + value * value, 0) / Math.max(1, part.length) + 1e-16;
  return 10 * Math.log10(powerOf(error.subarray(at, at + reach)) / powerOf(error.subarray(Math.max(0, at - reach), at)));
};

/**
 * The physical onset of a note with a sharp attack, to well under a millisecond; null where the sound rises too slowly
 * for that. What rang before is learnt by linear prediction and taken out; the change point of what remains is the onset.
 * The same definition for every note.
 *
 * `coarse` is the sample index in `samples` of the middle of the frame where the flux peaked. Returns a sample index.
 */
export const refineOnset = (samples: Float32Array, coarse: number, sampleRateHz: number): number | null => {
  const from = Math.max(0, coarse - Math.round(SEARCH_BEFORE_S * sampleRateHz));
  const to = Math.min(samples.length, coarse + Math.round(SEARCH_AFTER_S * sampleRateHz));
  const learnFrom = Math.max(0, from - Math.round(LEARN_S * sampleRateHz));
  const learn = Float64Array.from(samples.subarray(learnFrom, from));
  const coefficients = learn.length > 4 * ORDER ? burg(learn, ORDER) : Float64Array.of(1, -1);
  const order = coefficients.length - 1;
  const start = Math.max(0, from - order);
  const error = predictionError(Float64Array.from(samples.subarray(start, to)), coefficients);
  const at = changePoint(error, Math.round(0.001 * sampleRateHz));
  return stepDb(error, at, sampleRateHz) >= SHARP_STEP_DB ? start + order + at : null;
};

/** Level of the attack: the root mean square of the 20 ms after the onset, in dB relative to full scale. */
export const attackLevelDb = (samples: Float32Array, onset: number, sampleRateHz: number): number =>
  10 * Math.log10(powerOf(samples.subarray(onset, onset + Math.round(0.02 * sampleRateHz))) + 1e-12);

/** A sound that loses more than this within 40 ms ends there: a change of its spectrum is no new note. */
const FALL_DB = -6;

/** Whether the sound falls away at a sample: the level 18 to 38 ms after it against as long before. */
export const fallsAway = (samples: Float32Array, at: number, sampleRateHz: number): boolean => {
  const near = Math.round(0.018 * sampleRateHz);
  const far = Math.round(0.038 * sampleRateHz);
  const after = powerOf(samples.subarray(at + near, at + far));
  const before = powerOf(samples.subarray(Math.max(0, at - far), Math.max(0, at - near)));
  return 10 * Math.log10(after / before) < FALL_DB;
};
