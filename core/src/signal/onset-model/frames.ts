import { bandCentresHz, createBandLevels } from '../band-levels';
import { createDecimator } from '../decimate';
import { createSampleBuffer, type SampleBuffer } from '../sample-buffer';
import { nearestSpectrum } from '../spectrum';

/** Time from step to step, in seconds. A step holds one long frame and two short ones. */
export const STEP_S = 0.01;
const SHORT_IN_STEP = 2;
/** Steps before the sound begins: a recording may begin on its first note. */
export const LEAD_STEPS = 6;

/** A short window sees attacks; a long one, over a lower rate, hears a change of pitch that has no attack. */
const SHORT_WINDOW_S = 0.0205;
const LONG_WINDOW_S = 0.082;
const LONG_RATE_HZ = 12_000;
const SHORT_HZ = bandCentresHz({ lowHz: 60, highHz: 16_000, bandsPerOctave: 8, leastStepHz: 47 });
const LONG_HZ = bandCentresHz({ lowHz: 55, highHz: 4500, bandsPerOctave: 24, leastStepHz: 11.7 });

/** Bands of a long and of a short frame. */
export const LONG_BANDS = LONG_HZ.length;
export const SHORT_BANDS = SHORT_HZ.length;
/** Numbers of a step: the long frame's levels, then those of the two short frames in order. */
export const STEP_LEVELS = LONG_BANDS + SHORT_IN_STEP * SHORT_BANDS;

/**
 * Steps that are complete, in order; step k's long frame and first short frame are centred on
 * k − {@link LEAD_STEPS} hops.
 */
export interface OnsetModelFrames {
  /** Where a step is centred, in samples of the stream. */
  centre(step: number): number;
  push(block: Float32Array): void;
  /** The end of the sound: completes all steps centred before it. */
  finish(): void;
  /** Writes the next complete step into `levels`; false where there is none yet. */
  next(levels: Float32Array): boolean;
}

/** Cuts a sound into the steps that the ear reads, at any sample rate, the same however the sound is cut into blocks. */
export const createOnsetModelFrames = (sampleRateHz: number): OnsetModelFrames => {
  const factor = Math.max(1, Math.round(sampleRateHz / LONG_RATE_HZ));
  const shortHop = Math.round((STEP_S * sampleRateHz) / SHORT_IN_STEP / factor) * factor;
  const hop = SHORT_IN_STEP * shortHop;
  const shortSize = nearestSpectrum(sampleRateHz * SHORT_WINDOW_S);
  const longSize = nearestSpectrum((sampleRateHz / factor) * LONG_WINDOW_S);
  const short = createBandLevels({
    sampleRateHz,
    fftSize: shortSize,
    centresHz: SHORT_HZ,
    hopS: STEP_S / SHORT_IN_STEP,
    peakShare: 1e-3,
  });
  const long = createBandLevels({
    sampleRateHz: sampleRateHz / factor,
    fftSize: longSize,
    centresHz: LONG_HZ,
    hopS: STEP_S,
    peakShare: 1e-4,
  });
  const decimator = createDecimator(factor);
  const sound = createSampleBuffer(4 * shortSize + hop);
  const slow = createSampleBuffer(4 * longSize);
  let step = 0;
  let finished = false;

  const isComplete = (buffer: SampleBuffer, centre: number, size: number) =>
    finished ? centre < buffer.end() : centre + size / 2 <= buffer.end();

  return {
    centre: (k) => (k - LEAD_STEPS) * hop,
    push(block) {
      sound.append(block);
      slow.append(decimator.push(block));
    },
    finish() {
      finished = true;
    },
    next(levels) {
      const centre = (step - LEAD_STEPS) * hop;
      const slowCentre = centre / factor;
      if (!isComplete(slow, slowCentre, longSize) || !isComplete(sound, centre + shortHop, shortSize)) return false;
      step += 1;
      levels.set(long.next(slow.view(slowCentre - longSize / 2, longSize)).values());
      for (let k = 0; k < SHORT_IN_STEP; k += 1) {
        const from = centre + k * shortHop - shortSize / 2;
        levels.set(short.next(sound.view(from, shortSize)).values(), LONG_BANDS + k * SHORT_BANDS);
      }
      return true;
    },
  };
};
