import { doubleRow, kernel, type Row } from './kernel';

/** Rooms to work in, as long as any stretch was so far. */
let rooms: Row<Float64Array>[] = [];
const roomsFor = (count: number): readonly [Row<Float64Array>, Row<Float64Array>] => {
  if (!rooms[0] || rooms[0].values().length < count) rooms = [doubleRow(2 * count), doubleRow(2 * count)];
  return [rooms[0] as Row<Float64Array>, rooms[1] as Row<Float64Array>];
};

/** The highest order there is. */
const HIGHEST_ORDER = 64;
const taps = doubleRow(HIGHEST_ORDER + 1);

/**
 * Linear prediction coefficients a[1..order] (a[0] is 1) of a stretch of sound by Burg's method: x[n] ≈ −Σ a[k] x[n − k].
 * Stable for any input; zeros for silence. `order` up to 64. Source: Burg, "Maximum entropy spectral analysis" (1975).
 */
export const burg = (samples: Float32Array, order: number): Float64Array => {
  const [forward, backward] = roomsFor(samples.length);
  forward.values().set(samples);
  backward.values().set(samples);
  kernel.burg(forward.at, backward.at, samples.length, order, taps.at);
  return taps.values().slice(0, order + 1);
};

/**
 * What the prediction cannot explain, from sample `order` on: the same length less the order. To be read before the next
 * call of either function.
 */
export const predictionError = (samples: Float32Array, coefficients: Float64Array): Float64Array => {
  const count = Math.max(0, samples.length - coefficients.length + 1);
  const [sound, error] = roomsFor(samples.length);
  sound.values().set(samples);
  taps.values().set(coefficients.toReversed());
  kernel.filter(sound.at, taps.at, coefficients.length, count, error.at);
  return error.values().subarray(0, count);
};
