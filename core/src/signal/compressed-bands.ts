import { log2 } from './fast-log';
import { applyFilterbank, createFilterbank } from './filterbank';
import { spectrumOf } from './spectrum';

/** How the bands look at the sound. */
export interface BandOptions {
  /** Window length in samples, a power of two. */
  fftSize: number;
  bandsPerOctave: number;
  lowHz: number;
  highHz: number;
  /** Band amplitudes below this share of the running peak are lost in the logarithm. */
  peakShare: number;
}

/** And below this many times the band's own background. */
const BACKGROUND_SHARE = 3;
/** Nothing below this amplitude counts, whatever the peak (−84 dBFS). */
const SILENCE = 6e-5;

/** A stream of log-compressed band levels, frame by frame. */
export interface CompressedBands {
  count: number;
  centreHz: readonly number[];
  /** Writes the levels of the frame that begins at `from` of `samples` into `into`. */
  next(samples: Float32Array, from: number, into: Float32Array): void;
}

/**
 * Log-spaced, log-compressed bands: log2(1 + level / reference). The reference follows the running peak and each band's
 * own background, which is tracked as the sound goes on: a steady hum or a hall's noise drops out.
 * Source of the bands: Böck & Widmer, DAFx 2013; the background tracking is ours.
 */
export const createCompressedBands = (sampleRateHz: number, hopS: number, options: BandOptions): CompressedBands => {
  const { fftSize, bandsPerOctave, lowHz, highHz, peakShare } = options;
  const spectrum = spectrumOf(fftSize);
  const bank = createFilterbank({ sampleRateHz, fftSize, bandsPerOctave, lowHz, highHz });
  const count = bank.length;
  const powers = new Float32Array(bank.bins);
  const background = new Float32Array(count);
  const raw = new Float32Array(count);
  const ratio = new Float32Array(count);
  const ratioBits = new Int32Array(ratio.buffer);
  const backgroundRise = 10 ** ((1.5 * hopS) / 20);
  const peakFall = 10 ** ((-3 * hopS) / 20);
  let peak = 0;
  let isFirst = true;
  return {
    count,
    centreHz: bank.centreHz,
    next(samples, from, into) {
      spectrum.powers(samples, from, powers);
      applyFilterbank(bank, powers, raw);
      // Locals: a number that a closure keeps is boxed anew whenever it changes.
      let loudest = peak * peakFall;
      for (let band = 0; band < count; band += 1) {
        const level = Math.sqrt(raw[band] as number);
        raw[band] = level;
        if (level > loudest) loudest = level;
      }
      peak = loudest;
      const least = Math.max(peakShare * loudest, SILENCE);
      if (isFirst) background.set(raw);
      for (let band = 0; band < count; band += 1) {
        const level = raw[band] as number;
        const floor = background[band] as number;
        const next = level < floor ? 0.6 * floor + 0.4 * level : Math.min(level, floor * backgroundRise);
        background[band] = next;
        ratio[band] = 1 + level / Math.max(BACKGROUND_SHARE * next, least);
      }
      isFirst = false;
      log2(ratio, ratioBits, into);
    },
  };
};
