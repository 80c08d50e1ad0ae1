import FFT from 'fft.js';

/** Magnitude spectra of Hann-windowed frames of one fixed power-of-two size. */
export interface Spectrum {
  size: number;
  /**
   * Writes size/2 amplitudes into `into`: a full-scale sine in the middle of a bin reads 1. `frame` holds `size`
   * samples.
   */
  magnitudes(frame: Float32Array | Float64Array, into: Float64Array): void;
}

/** Makes a {@link Spectrum}; `size` is a power of two. */
export const createSpectrum = (size: number): Spectrum => {
  const fft = new FFT(size);
  const window = Float64Array.from({ length: size }, (_, n) => 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / size));
  const windowed = new Float64Array(size);
  const output = new Float64Array(size * 2);
  const scale = 4 / size;
  return {
    size,
    magnitudes(frame, into) {
      for (let n = 0; n < size; n += 1) windowed[n] = (frame[n] as number) * (window[n] as number);
      fft.realTransform(output, windowed);
      for (let bin = 0; bin < size / 2; bin += 1) {
        const re = output[2 * bin] as number;
        const im = output[2 * bin + 1] as number;
        into[bin] = Math.sqrt(re * re + im * im) * scale;
      }
    },
  };
};
