import { spectrumOf } from '@isochron/core/analysis';
import { createFilterbank, type Filterbank } from './filterbank';

const WINDOW = 2048;
const FRAMES_PER_S = 200;
const LAG = 1;
const THRESHOLD = 1.1;
const COMBINE_S = 0.03;

const bandSums = ({ length, firstBin, firstWeight, weights }: Filterbank, spectrum: Float32Array): Float32Array =>
  Float32Array.from({ length }, (_, band) => {
    const from = firstWeight[band] as number;
    const bins = spectrum.subarray(firstBin[band]);
    return weights.subarray(from, firstWeight[band + 1]).reduce((sum, weight, n) => sum + weight * (bins[n] as number), 0);
  });

/**
 * The published SuperFlux method, plain and with its authors' parameters: 24 bands an octave from 30 Hz to 17 kHz,
 * log10(1 + magnitude), a maximum filter over three bands, threshold 1.1 over the mean of the last 150 ms, onsets 30 ms
 * apart. Source: Böck & Widmer, "Maximum filter vibrato suppression for onset detection", DAFx 2013; the peak picking's
 * figures (3 frames before and after, combine 30 ms) are from memory.
 */
export const superFlux = (samples: Float32Array, sampleRateHz: number): number[] => {
  const hop = Math.round(sampleRateHz / FRAMES_PER_S);
  const bank = createFilterbank({ sampleRateHz, fftSize: WINDOW, bandsPerOctave: 24, lowHz: 30, highHz: 17_000 });
  const spectrum = spectrumOf(WINDOW, bank.bins);
  const padded = new Float32Array(samples.length + WINDOW);
  padded.set(samples, WINDOW / 2);
  const frames: Float32Array[] = [];
  const flux: number[] = [];
  for (let at = 0; at + WINDOW <= padded.length; at += hop) {
    // Its magnitudes are those of an unscaled transform.
    const magnitudes = spectrum
      .powers(padded, at)
      .values()
      .map((power) => (Math.sqrt(power) * WINDOW) / 4);
    const bands = bandSums(bank, magnitudes).map((sum) => Math.log10(1 + sum));
    const earlier = frames.at(-LAG);
    let sum = 0;
    if (earlier) {
      bands.forEach((value, band) => {
        const widest = Math.max(earlier[band - 1] ?? 0, earlier[band] as number, earlier[band + 1] ?? 0);
        sum += Math.max(0, value - widest);
      });
    }
    frames.push(bands);
    flux.push(sum);
  }
  const onsets: number[] = [];
  flux.forEach((value, k) => {
    const around = flux.slice(Math.max(0, k - 2), k + 11);
    const before = flux.slice(Math.max(0, k - 30), k + 1);
    if (value < Math.max(...around)) return;
    if (value < before.reduce((sum, one) => sum + one, 0) / before.length + THRESHOLD) return;
    const timeS = k / FRAMES_PER_S;
    if (timeS - (onsets.at(-1) ?? Number.NEGATIVE_INFINITY) > COMBINE_S) onsets.push(timeS);
  });
  return onsets;
};
