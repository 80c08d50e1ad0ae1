import loadPffft from '@echogarden/pffft-wasm/simd';

const pffft = await loadPffft();

/** Power spectra of Hann-windowed frames of one fixed power-of-two size. */
export interface Spectrum {
  size: number;
  /**
   * Writes the powers of the first bins into `into` (as many as it holds, at most size/2): a full-scale sine in the middle
   * of a bin reads 1 (an amplitude of 1, squared). `samples` is read from `from`, for `size` samples.
   */
  powers(samples: Float32Array, from: number, into: Float32Array): void;
}

/** The smallest transform of the library (it works on groups of four). */
export const SMALLEST_SPECTRUM = 32;

const made = new Map<number, Spectrum>();

/** The {@link Spectrum} of a size (a power of two, at least {@link SMALLEST_SPECTRUM}); made once, since it holds no state. */
export const spectrumOf = (size: number): Spectrum => {
  const ready = made.get(size);
  if (ready) return ready;
  const spectrum = createSpectrum(size);
  made.set(size, spectrum);
  return spectrum;
};

const createSpectrum = (size: number): Spectrum => {
  if (size < SMALLEST_SPECTRUM || !Number.isInteger(Math.log2(size)))
    throw new RangeError(`No Fourier transform of ${size} samples: a power of two from 32 on is needed.`);
  const setup = pffft._pffft_new_setup(size, 0);
  const input = pffft._pffft_aligned_malloc(size * 4);
  const output = pffft._pffft_aligned_malloc(size * 4);
  const work = pffft._pffft_aligned_malloc(size * 4);
  const window = Float32Array.from({ length: size }, (_, n) => 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / size));
  const scale = (4 / size) ** 2;
  return {
    size,
    powers(samples, from, into) {
      const heap = pffft.HEAPF32;
      const at = input >> 2;
      for (let n = 0; n < size; n += 1) heap[at + n] = (samples[from + n] as number) * (window[n] as number);
      pffft._pffft_transform_ordered(setup, input, output, work, 0);
      const out = output >> 2;
      // The first pair holds the two real bins, at zero and at half the rate.
      into[0] = (heap[out] as number) ** 2 * scale;
      for (let bin = 1; bin < into.length; bin += 1) {
        const re = heap[out + 2 * bin] as number;
        const im = heap[out + 2 * bin + 1] as number;
        into[bin] = (re * re + im * im) * scale;
      }
    },
  };
};
