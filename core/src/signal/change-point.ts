/**
 * The sample at which a stretch of sound changes from one variance to another: the minimum of
 * AIC(k) = k·log var(x[0..k)) + (N − k)·log var(x[k..N)), as used to pick seismic arrivals.
 * Source: Maeda, "A method for reading and checking phase times in auto-processing system of seismic wave data" (1985).
 * `margin` samples at either end are not considered. Returns the index of the first sample of the new sound.
 */
export const changePoint = (samples: Float64Array, margin: number): number => {
  const count = samples.length;
  let total = 0;
  for (const value of samples) total += value * value;
  // Keeps silence from being infinitely likely: −80 dB below the stretch's own mean power.
  const floor = (1e-8 * total) / count + 1e-20;
  let before = 0;
  let best = margin;
  let least = Number.POSITIVE_INFINITY;
  for (let k = 1; k < count; k += 1) {
    before += (samples[k - 1] as number) ** 2;
    if (k < margin || k > count - margin) continue;
    const after = Math.max(0, total - before);
    const aic = k * Math.log(before / k + floor) + (count - k) * Math.log(after / (count - k) + floor);
    if (aic < least) {
      least = aic;
      best = k;
    }
  }
  return best;
};
