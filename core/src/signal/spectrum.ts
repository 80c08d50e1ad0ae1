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
  const output = pffft._pffft_aligned_malloc((size + 2) * 4);
  const work = pffft._pffft_aligned_malloc(size * 4);
  const scale = (2 / size) ** 2;
  return {
    size,
    powers(samples, from, into) {
      const heap = pffft.HEAPF32;
      heap.set(samples.subarray(from, from + size), input >> 2);
      pffft._pffft_transform_ordered(setup, input, output, work, 0);
      const out = output >> 2;
      // The first pair holds the two real bins, at zero and at half the rate; the latter goes where it belongs.
      heap[out + size] = heap[out + 1] as number;
      heap[out + size + 1] = 0;
      let re = heap[out] as number;
      let im = 0;
      let nextRe = heap[out + 2] as number;
      let nextIm = heap[out + 3] as number;
      // Below zero lie the mirrored bins, conjugate.
      let beforeRe = nextRe;
      let beforeIm = -nextIm;
      for (let bin = 0; bin < into.length; bin += 1) {
        const windowedRe = re - 0.5 * (beforeRe + nextRe);
        const windowedIm = im - 0.5 * (beforeIm + nextIm);
        into[bin] = (windowedRe * windowedRe + windowedIm * windowedIm) * scale;
        beforeRe = re;
        beforeIm = im;
        re = nextRe;
        im = nextIm;
        nextRe = heap[out + 2 * bin + 4] as number;
        nextIm = heap[out + 2 * bin + 5] as number;
      }
    },
  };
};
