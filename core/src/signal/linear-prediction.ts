/**
 * Linear prediction coefficients a[1..order] of a stretch of sound by Burg's method: x[n] ≈ −Σ a[k] x[n − k].
 * Stable for any input; zeros for silence. Source: Burg, "Maximum entropy spectral analysis" (1975).
 */
export const burg = (samples: Float64Array, order: number): Float64Array => {
  const forward = Float64Array.from(samples);
  const backward = Float64Array.from(samples);
  let coefficients = new Float64Array(order + 1);
  coefficients[0] = 1;
  for (let m = 1; m <= order; m += 1) {
    let cross = 0;
    let power = 0;
    for (let n = m; n < samples.length; n += 1) {
      const f = forward[n] as number;
      const b = backward[n - 1] as number;
      cross += f * b;
      power += f * f + b * b;
    }
    if (power < 1e-18) break;
    const reflection = (-2 * cross) / power;
    const next = Float64Array.from(coefficients);
    for (let k = 1; k <= m; k += 1) next[k] = (coefficients[k] as number) + reflection * (coefficients[m - k] as number);
    coefficients = next;
    for (let n = samples.length - 1; n >= m; n -= 1) {
      const f = forward[n] as number;
      const b = backward[n - 1] as number;
      forward[n] = f + reflection * b;
      backward[n] = b + reflection * f;
    }
  }
  return coefficients;
};

/** What the prediction cannot explain, from sample `order` on: the same length less the order. */
export const predictionError = (samples: Float64Array, coefficients: Float64Array): Float64Array => {
  const order = coefficients.length - 1;
  const error = new Float64Array(Math.max(0, samples.length - order));
  for (let n = order; n < samples.length; n += 1) {
    let sum = 0;
    for (let k = 0; k <= order; k += 1) sum += (coefficients[k] as number) * (samples[n - k] as number);
    error[n - order] = sum;
  }
  return error;
};
