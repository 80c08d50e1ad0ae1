import { createFilterbank } from './filterbank';
import { floatRow, floatsInRow, integersInRow, kernel, padded, type Row } from './kernel';
import { oncePer } from './once-per';
import { spectrumOf } from './spectrum';

/** How the bands look at the sound. */
export interface BandOptions {
  sampleRateHz: number;
  /** Window length in samples, a power of two. */
  fftSize: number;
  bandsPerOctave: number;
  lowHz: number;
  highHz: number;
}

/** How band amplitudes are compressed into levels. */
export interface Compression {
  /** Time from frame to frame, in seconds. */
  hopS: number;
  /** Amplitudes below this share of the running peak are lost in the logarithm. */
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
  /** The levels of the frame that `samples` begins with; the row is the same one at every call. */
  next(samples: Float32Array): Row;
}

/** What all streams of the same bands share: nothing that lasts from one frame to the next. */
const createBands = ({ sampleRateHz, fftSize, bandsPerOctave, lowHz, highHz }: BandOptions) => {
  const bank = createFilterbank({ sampleRateHz, fftSize, bandsPerOctave, lowHz, highHz });
  return {
    bank,
    spectrum: spectrumOf(fftSize, bank.bins),
    firstBin: integersInRow(bank.firstBin),
    firstWeight: integersInRow(bank.firstWeight),
    weights: floatsInRow(bank.weights),
    amplitudes: floatRow(bank.length),
    background: floatRow(bank.length),
    levels: floatRow(bank.length),
  };
};

const sharedBands = oncePer<ReturnType<typeof createBands>>();

/**
 * Log-spaced, log-compressed bands: log2(1 + amplitude / reference). The reference follows the running peak and each band's
 * own background, which is tracked as the sound goes on: a steady hum or a hall's noise drops out.
 * Source of the bands: Böck & Widmer, DAFx 2013; the background tracking is ours.
 */
export const createCompressedBands = (options: BandOptions, { hopS, peakShare }: Compression): CompressedBands => {
  const { bank, spectrum, firstBin, firstWeight, weights, amplitudes, background, levels } = sharedBands(
    JSON.stringify(options),
    () => createBands(options),
  );
  const count = bank.length;
  const kept = new Float32Array(count);
  const backgroundRise = 10 ** ((1.5 * hopS) / 20);
  const peakFall = 10 ** ((-3 * hopS) / 20);
  let peak = 0;
  let isFirst = true;
  return {
    count,
    centreHz: bank.centreHz,
    next(samples) {
      const powers = spectrum.powers(samples);
      kernel.bandAmplitudes(powers.at, firstBin.at, firstWeight.at, weights.at, count, amplitudes.at);
      peak = Math.max(peak * peakFall, kernel.greatest(amplitudes.at, padded(count)));
      background.values().set(isFirst ? amplitudes.values() : kept);
      isFirst = false;
      const least = Math.max(peakShare * peak, SILENCE);
      kernel.compress(amplitudes.at, background.at, padded(count), backgroundRise, BACKGROUND_SHARE, least, levels.at);
      kept.set(background.values());
      return levels;
    },
  };
};
