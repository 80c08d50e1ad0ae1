import { floatRow, floatsInRow, kernel, padded } from './kernel';
import { memoizeByKey } from './memoize-by-key';

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

/** Samples filtered at a time. */
const PIECE = 4096;

/** A windowed sinc (Hann), and rooms to work in: what all decimators by a factor share. */
const createFilter = (factor: number) => {
  const half = (TAPS_PER_FACTOR / 2) * factor;
  const cutoff = 0.45 / factor;
  const response = Array.from({ length: 2 * half + 1 }, (_, n) => {
    const x = n - half;
    const sinc = x === 0 ? 2 * cutoff : Math.sin(2 * Math.PI * cutoff * x) / (Math.PI * x);
    return sinc * (0.5 + 0.5 * Math.cos((Math.PI * x) / (half + 1)));
  });
  const gain = response.reduce((sum, value) => sum + value, 0);
  return {
    length: response.length,
    taps: floatsInRow(response.map((value) => value / gain)),
    sound: floatRow(response.length + PIECE + 4 * factor),
    out: floatRow(PIECE),
  };
};

const filters = memoizeByKey<ReturnType<typeof createFilter>>();

/**
 * A low-pass filter that keeps every `factor`-th sample, without delay: output k waits for the half filter length after input
 * k·factor. `factor` 1 passes the sound on.
 */
export const createDecimator = (factor: number): Decimator => {
  if (factor === 1) return { factor, push: (block) => block };
  const { length: taps, ...filter } = filters(String(factor), () => createFilter(factor));
  /** The samples that the next outputs still need, silence before the first; then room for a piece. */
  const joined = new Float32Array(taps + PIECE);
  let kept = (taps - 1) / 2;
  let out = new Float32Array(0);
  return {
    factor,
    push(block) {
      if (out.length < block.length / factor + 1) out = new Float32Array(Math.ceil(block.length / factor) + 1);
      let done = 0;
      for (let from = 0; from < block.length; from += PIECE) {
        const piece = block.subarray(from, from + PIECE);
        joined.set(piece, kept);
        const length = kept + piece.length;
        const count = Math.max(0, Math.floor((length - taps) / factor) + 1);
        filter.sound.values().set(joined);
        kernel.decimate(filter.sound.at, filter.taps.at, padded(taps), factor, count, filter.out.at);
        out.set(filter.out.values().subarray(0, count), done);
        done += count;
        joined.copyWithin(0, count * factor, length);
        kept = length - count * factor;
      }
      return out.subarray(0, done);
    },
  };
};
