import loadPffft from '@echogarden/pffft-wasm/simd';
import { floatRow, kernel, padded, type Row } from './kernel';
import { memoizeByKey } from './memoize-by-key';

const pffft = await loadPffft();

/** Power spectra of Hann-windowed frames of one fixed power-of-two size. */
export interface Spectrum {
  size: number;
  /**
   * The powers of the first bins of a frame, `size` samples of `samples` from `from`: a full-scale sine in the middle of a bin
   * reads 1 (an amplitude of 1, squared). The row is the same one at every call.
   */
  powers(samples: Float32Array, from?: number): Row;
}

/** The smallest transform of the library (it works on groups of four). */
const SMALLEST_SPECTRUM = 32;

/** The size of transform nearest to a window of so many samples. */
export const nearestSpectrum = (samples: number): number => Math.max(SMALLEST_SPECTRUM, 2 ** Math.round(Math.log2(samples)));

const spectra = memoizeByKey<Spectrum>();

/**
 * The {@link Spectrum} of a size (a power of two, at least `SMALLEST_SPECTRUM`) and a number of bins (half the size at
 * most); made once, since it holds no state.
 */
export const spectrumOf = (size: number, bins = size / 2): Spectrum =>
  spectra(`${size}/${bins}`, () => createSpectrum(size, bins));

/** Numbers before the first bin: its lower neighbour, and room that keeps the rows at addresses that divide by 16. */
const BEFORE = 4;

const createSpectrum = (size: number, bins: number): Spectrum => {
  if (size < SMALLEST_SPECTRUM || !Number.isInteger(Math.log2(size)))
    throw new RangeError(`No Fourier transform of ${size} samples: a power of two from 32 on is needed.`);
  const setup = pffft._pffft_new_setup(size, 0);
  const input = pffft._pffft_aligned_malloc(size * 4) >> 2;
  const output = pffft._pffft_aligned_malloc(size * 4) >> 2;
  const work = pffft._pffft_aligned_malloc(size * 4);
  const scale = (2 / size) ** 2;
  const transform = floatRow(BEFORE + size + 4);
  const powers = floatRow(bins);
  // The transform is read one bin past the last one wanted, and four at a time.
  const read = Math.min(size, 2 * padded(bins) + 2);
  return {
    size,
    powers(samples, from = 0) {
      const heap = pffft.HEAPF32;
      heap.set(samples.subarray(from, from + size), input);
      pffft._pffft_transform_ordered(setup, input << 2, output << 2, work, 0);
      const complex = transform.values();
      complex.set(heap.subarray(output, output + read), BEFORE);
      // The first pair holds the two real bins, at zero and at half the rate; the latter goes where it belongs. Below zero
      // lie the mirrored bins, conjugate.
      complex[BEFORE + size] = complex[BEFORE + 1] as number;
      complex[BEFORE + 1] = 0;
      complex[BEFORE - 2] = complex[BEFORE + 2] as number;
      complex[BEFORE - 1] = -(complex[BEFORE + 3] as number);
      kernel.hannPowers(transform.at + 4 * BEFORE, padded(bins), scale, powers.at);
      return powers;
    },
  };
};
