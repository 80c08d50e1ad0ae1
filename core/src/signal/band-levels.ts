import { floatRow, floatsInRow, integersInRow, kernel, padded, type Row } from './kernel';
import { memoizeByKey } from './memoize-by-key';
import { spectrumOf } from './spectrum';

/** A way to look at the sound. */
export interface BandView {
  sampleRateHz: number;
  /** Window length in samples, a power of two. */
  fftSize: number;
  /** Centres of the bands, ascending; the same at every sample rate. */
  centresHz: readonly number[];
  /** Time from frame to frame, in seconds. */
  hopS: number;
  /** Amplitudes below this share of the running peak are lost in the logarithm. */
  peakShare: number;
}

/** A stream of log-compressed band levels, frame by frame. */
export interface BandLevels {
  /** The levels of the frame that `samples` begins with; the row is the same one at every call. */
  next(samples: Float32Array): Row;
}

/** And below this many times the band's own background. */
const BACKGROUND_SHARE = 3;
/** Nothing below this amplitude counts, whatever the peak (−130 dBFS). */
const SILENCE = 3e-7;
/** The running peak falls by so much in a second. */
const PEAK_FALL_DB = 3;
/**
 * A background begins this share of the first frame that is not silent, or the first note of a recording that begins on it
 * would be its own background; it rises quickly at first, so that a steady noise drops out within a second.
 */
const FIRST_BACKGROUND = 0.01;
const FIRST_RISE_S = 1;
const FIRST_RISE_DB = 40;
const RISE_DB = 1.5;

/**
 * Centres from `lowHz` to `highHz`, `bandsPerOctave` to the octave, but nowhere closer than `leastStepHz`: nearer ones would
 * be told the same by a window of that resolution.
 */
export const bandCentresHz = (options: {
  lowHz: number;
  highHz: number;
  bandsPerOctave: number;
  leastStepHz: number;
}): number[] => {
  const { lowHz, highHz, bandsPerOctave, leastStepHz } = options;
  const centres: number[] = [];
  for (let hz = lowHz; hz <= highHz; hz += Math.max(leastStepHz, hz * (2 ** (1 / bandsPerOctave) - 1))) centres.push(hz);
  return centres;
};

/** Triangular bands over a spectrum's bins, each reaching to its neighbours' centres and at least one bin to either side. */
const createBank = ({ sampleRateHz, fftSize, centresHz }: BandView) => {
  const binHz = sampleRateHz / fftSize;
  const bands = centresHz.map((hz, k) => {
    const below = hz - Math.max(binHz, hz - (centresHz[k - 1] ?? hz));
    const above = hz + Math.max(binHz, (centresHz[k + 1] ?? hz) - hz);
    const from = Math.max(1, Math.floor(below / binHz) + 1);
    const to = Math.min(fftSize / 2 - 1, Math.ceil(above / binHz) - 1);
    const weights: number[] = [];
    for (let bin = from; bin <= to; bin += 1) {
      const own = bin * binHz;
      weights.push(own <= hz ? (own - below) / (hz - below) : (above - own) / (above - hz));
    }
    return { from: Math.min(from, fftSize / 2 - 1), weights };
  });
  const firstWeight = [0];
  for (const { weights } of bands) firstWeight.push((firstWeight.at(-1) as number) + weights.length);
  const bins = Math.min(fftSize / 2, Math.max(...bands.map(({ from, weights }) => from + weights.length)) + 1);
  return {
    spectrum: spectrumOf(fftSize, bins),
    firstBin: integersInRow(bands.map(({ from }) => from)),
    firstWeight: integersInRow(firstWeight),
    weights: floatsInRow(Float32Array.from(bands.flatMap(({ weights }) => weights))),
    amplitudes: floatRow(centresHz.length),
    background: floatRow(centresHz.length),
    levels: floatRow(centresHz.length),
  };
};

/** What all streams of the same view share: nothing that lasts from one frame to the next. */
const banks = memoizeByKey<ReturnType<typeof createBank>>();

/**
 * Log-spaced, log-compressed bands: log2(1 + amplitude / reference). The reference follows the running peak, so that a soft
 * recording looks like a loud one, and each band's own background, so that a steady hum or a hall's noise drops out.
 * Source of the bands: Böck & Widmer, DAFx 2013; the references are ours.
 */
export const createBandLevels = (view: BandView): BandLevels => {
  const { spectrum, firstBin, firstWeight, weights, amplitudes, background, levels } = banks(JSON.stringify(view), () =>
    createBank(view),
  );
  const { hopS, peakShare, centresHz } = view;
  const count = centresHz.length;
  const kept = new Float32Array(count);
  const factor = (db: number) => 10 ** ((db * hopS) / 20);
  let peak = 0;
  /** Frames since the first that was not silent. */
  let age = -1;
  return {
    next(samples) {
      const powers = spectrum.powers(samples);
      kernel.bandAmplitudes(powers.at, firstBin.at, firstWeight.at, weights.at, count, amplitudes.at);
      const greatest = kernel.greatest(amplitudes.at, padded(count));
      peak = Math.max(peak * factor(-PEAK_FALL_DB), greatest);
      if (age >= 0 || greatest > SILENCE) age += 1;
      if (age <= 0)
        amplitudes.values().forEach((amplitude, band) => {
          kept[band] = FIRST_BACKGROUND * amplitude;
        });
      background.values().set(kept);
      const riseDb = age * hopS < FIRST_RISE_S ? FIRST_RISE_DB : RISE_DB;
      const least = Math.max(peakShare * peak, SILENCE);
      kernel.compress(amplitudes.at, background.at, padded(count), factor(riseDb), BACKGROUND_SHARE, least, levels.at);
      kept.set(background.values());
      return levels;
    },
  };
};
