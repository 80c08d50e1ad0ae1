import { applyFilterbank, createFilterbank } from './filterbank';
import { createSpectrum } from './spectrum';

/** How a flux looks at the sound. */
export interface FluxOptions {
  /** Least window length, in seconds; rounded up to a power of two of samples. */
  windowS: number;
  bandsPerOctave: number;
  /** Frames are compared with the one this many hops earlier: about half a window. */
  lag: number;
  /** Whether the earlier frame is widened by a band to either side, so that vibrato does not look like a note. */
  forgivesVibrato: boolean;
  /** Band amplitudes below this share of the running peak are lost in the logarithm. */
  peakShare: number;
}

/** And below this many times the band's own background. */
const BACKGROUND_SHARE = 3;
/** Nothing below this amplitude counts, whatever the peak (−84 dBFS). */
const SILENCE = 6e-5;

/** A stream of spectral flux: how much the sound grew, frame by frame. */
export interface Flux {
  fftSize: number;
  /** The next frame of `fftSize` samples; returns its flux (mean rise over the bands, in log10 units). */
  next(frame: Float32Array): number;
}

/**
 * Spectral flux on log-spaced, log-compressed bands, with a maximum filter along frequency in the earlier frame where
 * asked for. The compression looks for each band's own background, which is tracked as the
 * sound goes on: a steady hum or a hall's noise drops out.
 * Source: Böck & Widmer, DAFx 2013; the background tracking is ours.
 */
export const createFlux = (sampleRateHz: number, hopS: number, options: FluxOptions): Flux => {
  const { windowS, bandsPerOctave, lag, forgivesVibrato, peakShare } = options;
  const fftSize = 2 ** Math.ceil(Math.log2(sampleRateHz * windowS));
  const spectrum = createSpectrum(fftSize);
  const bank = createFilterbank({ sampleRateHz, fftSize, bandsPerOctave, lowHz: 60, highHz: 16_000 });
  const magnitudes = new Float64Array(fftSize / 2);
  const background = new Float64Array(bank.length);
  const raw = new Float64Array(bank.length);
  const history: Float64Array[] = [];
  let peak = 0;
  const backgroundRise = 10 ** ((1.5 * hopS) / 20);
  const peakFall = 10 ** ((-3 * hopS) / 20);
  let frames = 0;

  return {
    fftSize,
    next(frame) {
      spectrum.magnitudes(frame, magnitudes);
      applyFilterbank(bank, magnitudes, raw);
      peak *= peakFall;
      const compressed = history.length > lag ? (history.shift() as Float64Array) : new Float64Array(bank.length);
      for (let band = 0; band < bank.length; band += 1) peak = Math.max(peak, raw[band] as number);
      for (let band = 0; band < bank.length; band += 1) {
        const value = raw[band] as number;
        const floor = background[band] as number;
        const risen = floor * backgroundRise;
        background[band] = frames === 0 ? value : value < floor ? 0.6 * floor + 0.4 * value : Math.min(value, risen);
        const reference = Math.max(SILENCE, peakShare * peak, BACKGROUND_SHARE * (background[band] as number));
        compressed[band] = Math.log10(1 + value / reference);
      }
      frames += 1;
      history.push(compressed);
      if (history.length <= lag) return 0;
      const earlier = history[0] as Float64Array;
      let sum = 0;
      for (let band = 0; band < bank.length; band += 1) {
        const own = earlier[band] as number;
        const before = forgivesVibrato ? Math.max(earlier[band - 1] ?? 0, own, earlier[band + 1] ?? 0) : own;
        sum += Math.max(0, (compressed[band] as number) - before);
      }
      return sum / bank.length;
    },
  };
};
