/** A stream of samples at a lower rate. */
export interface Decimator {
  factor: number;
  /**
   * The next block; returns the samples that are now complete, to be read before the next call. Output sample k is input
   * sample k·factor, low-passed.
   */
  push(block: Float32Array): Float32Array;
}

/** Taps a factor: the stop band begins a little above half the new rate. */
const TAPS_PER_FACTOR = 6;

/**
 * A low-pass filter (windowed sinc, Hann) that keeps every `factor`-th sample, without delay: output k waits for the half
 * filter length after input k·factor. `factor` 1 passes the sound on.
 */
export const createDecimator = (factor: number): Decimator => {
  if (factor === 1) return { factor, push: (block) => block };
  const half = (TAPS_PER_FACTOR / 2) * factor;
  const taps = 2 * half + 1;
  const cutoff = 0.45 / factor;
  const kernel = Float64Array.from({ length: taps }, (_, n) => {
    const x = n - half;
    const sinc = x === 0 ? 2 * cutoff : Math.sin(2 * Math.PI * cutoff * x) / (Math.PI * x);
    return sinc * (0.5 + 0.5 * Math.cos((Math.PI * x) / (half + 1)));
  });
  const gain = kernel.reduce((sum, value) => sum + value, 0);
  for (let n = 0; n < taps; n += 1) kernel[n] = (kernel[n] as number) / gain;
  const middle = kernel[half] as number;
  /** The samples that the next outputs still need, then room for a block; silence before the first. */
  let joined = new Float32Array(half);
  let kept = half;
  let out = new Float32Array(0);
  return {
    factor,
    push(block) {
      const length = kept + block.length;
      if (joined.length < length) {
        const larger = new Float32Array(length);
        larger.set(joined.subarray(0, kept));
        joined = larger;
      }
      joined.set(block, kept);
      const count = Math.max(0, Math.floor((length - taps) / factor) + 1);
      if (out.length < count) out = new Float32Array(count);
      for (let k = 0; k < count; k += 1) {
        const from = k * factor;
        const to = from + taps - 1;
        // The kernel is symmetric. Two sums at a time keep the processor busier than one.
        let sum = middle * (joined[from + half] as number);
        let other = 0;
        for (let n = 0; n + 1 < half; n += 2) {
          sum += (kernel[n] as number) * ((joined[from + n] as number) + (joined[to - n] as number));
          other += (kernel[n + 1] as number) * ((joined[from + n + 1] as number) + (joined[to - n - 1] as number));
        }
        if (half % 2)
          sum += (kernel[half - 1] as number) * ((joined[from + half - 1] as number) + (joined[from + half + 1] as number));
        out[k] = sum + other;
      }
      joined.copyWithin(0, count * factor, length);
      kept = length - count * factor;
      return out.subarray(0, count);
    },
  };
};
