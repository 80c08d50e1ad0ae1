/** Every so manieth sample is tried first, then all around the best. */
const STRIDE = 6;

/** Energy before each sample of the stretch in hand; kept, since it is asked for at every note. */
let energy = new Float64Array(0);

/**
 * The sample at which a stretch of sound changes from one variance to another: the minimum of
 * AIC(k) = k·log var(x[0..k)) + (N − k)·log var(x[k..N)), as used to pick seismic arrivals.
 * Source: Maeda, "A method for reading and checking phase times in auto-processing system of seismic wave data" (1985).
 * `margin` samples at either end are not considered. Returns the index of the first sample of the new sound.
 */
export const changePoint = (samples: Float64Array, margin: number): number => {
  const count = samples.length;
  if (energy.length <= count) energy = new Float64Array(2 * count + 1);
  energy[0] = 0;
  for (let n = 0; n < count; n += 1) energy[n + 1] = (energy[n] as number) + (samples[n] as number) ** 2;
  const total = energy[count] as number;
  // Keeps silence from being infinitely likely: −80 dB below the stretch's own mean power.
  const floor = (1e-8 * total) / count + 1e-20;
  const aic = (k: number): number => {
    const before = energy[k] as number;
    return k * Math.log(before / k + floor) + (count - k) * Math.log(Math.max(0, total - before) / (count - k) + floor);
  };
  const least = (from: number, to: number, step: number): number => {
    let best = from;
    let value = Number.POSITIVE_INFINITY;
    for (let k = from; k <= to; k += step) {
      const own = aic(k);
      if (own < value) {
        value = own;
        best = k;
      }
    }
    return best;
  };
  const [first, last] = [Math.max(1, margin), Math.min(count - 1, count - margin)];
  const near = least(first, last, STRIDE);
  return least(Math.max(first, near - STRIDE), Math.min(last, near + STRIDE), 1);
};
