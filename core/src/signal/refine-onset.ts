import { changePoint } from './change-point';
import { burg, predictionError } from './linear-prediction';

/** Around the coarse frame's middle: the stretch searched for the onset, in seconds. */
export const SEARCH_BEFORE_S = 0.03;
export const SEARCH_AFTER_S = 0.02;
/** The stretch before the search from which the ringing sound is learnt. */
export const LEARN_S = 0.025;
const ORDER = 24;

/**
 * The physical onset of a note to about a millisecond. What rang before is learnt by linear prediction and taken out;
 * the change point of what remains is the onset. The same definition for every note.
 *
 * `samples` is any stretch of sound that starts at sample 0 of the caller's clock part; `coarse` is the sample index of
 * the flux peak's frame middle in it. Returns a sample index in `samples`.
 */
export const refineOnset = (samples: Float32Array, coarse: number, sampleRateHz: number): number => {
  const from = Math.max(0, coarse - Math.round(SEARCH_BEFORE_S * sampleRateHz));
  const to = Math.min(samples.length, coarse + Math.round(SEARCH_AFTER_S * sampleRateHz));
  const learnFrom = Math.max(0, from - Math.round(LEARN_S * sampleRateHz));
  const learn = Float64Array.from(samples.subarray(learnFrom, from));
  const coefficients = learn.length > 4 * ORDER ? burg(learn, ORDER) : Float64Array.of(1, -1);
  const order = coefficients.length - 1;
  const start = Math.max(0, from - order);
  const error = predictionError(Float64Array.from(samples.subarray(start, to)), coefficients);
  return start + order + changePoint(error, Math.round(0.001 * sampleRateHz));
};

/** Level of the attack: the root mean square of the 20 ms after the onset, in dB relative to full scale. */
export const attackLevelDb = (samples: Float32Array, onset: number, sampleRateHz: number): number => {
  const stretch = samples.subarray(onset, onset + Math.round(0.02 * sampleRateHz));
  let power = 0;
  for (const value of stretch) power += value * value;
  return 10 * Math.log10(power / Math.max(1, stretch.length) + 1e-12);
};
