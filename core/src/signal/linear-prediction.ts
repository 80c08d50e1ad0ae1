/**
 * Linear prediction coefficients a[1..order] of a stretch of sound by Burg's method: x[n] ≈ −Σ a[k] x[n − k].
 * Stable for any input; zeros for silence. Source: Burg, "Maximum entropy spectral analysis" (1975).
 */
export const burg = (samples: Float64Array, order: number): Float64Array => {
  const forward = Float64Array.from(samples);
  const backward = Float64Array.from(samples);
  const coefficients = new Float64Array(order + 1);
  coefficients[0] = 1;
  let cross = 0;
  let power = 0;
  for (let n = 1; n < samples.length; n += 1) {
    const f = samples[n] as number;
    const b = samples[n - 1] as number;
    cross += f * b;
    power += f * f + b * b;
  }
  for (let m = 1; m <= order && power >= 1e-18; m += 1) {
    const reflection = (-2 * cross) / power;
    for (let k = 0; k <= m >> 1; k += 1) {
      const low = coefficients[k] as number;
      const high = coefficients[m - k] as number;
      coefficients[k] = low + reflection * high;
      coefficients[m - k] = high + reflection * low;
    }
    cross = 0;
    power = 0;
    // The lattice goes one order on, and in the same pass the sums for the next are taken.
    let last = backward[m - 1] as number;
    for (let n = m; n < samples.length; n += 1) {
      const f = (forward[n] as number) + reflection * last;
      const b = last + reflection * (forward[n] as number);
      const before = backward[n - 1] as number;
      forward[n] = f;
      last = backward[n] as number;
      backward[n] = b;
      if (n > m) {
        cross += f * before;
        power += f * f + before * before;
      }
    }
  }
  return coefficients;
};

/** What the prediction cannot explain, from sample `order` on: the same length less the order. */
export const predictionError = (samples: Float64Array, coefficients: Float64Array): Float64Array => {
  const order = coefficients.length - 1;
  const error = new Float64Array(Math.max(0, samples.length - order));
  for (let n = order; n < samples.length; n += 1) {
    let sum = samples[n] as number;
    let other = 0;
    let k = 1;
    // Two sums at a time keep the processor busier than one.
    for (; k < order; k += 2) {
      sum += (coefficients[k] as number) * (samples[n - k] as number);
      other += (coefficients[k + 1] as number) * (samples[n - k - 1] as number);
    }
    if (k === order) sum += (coefficients[k] as number) * (samples[n - k] as number);
    error[n - order] = sum + other;
  }
  return error;
};
