import type { Onset } from '../schema/measures';
import { createFlux } from './flux';
import { createPeakPicker } from './peak-picker';
import { attackLevelDb, LEARN_S, refineOnset, SEARCH_AFTER_S, SEARCH_BEFORE_S } from './refine-onset';

const HOP_S = 0.005;
const PICKING = { reach: 5, meanBefore: 20, meanAfter: 6, threshold: 0.09 };
/** Two onsets closer than this are one attack. */
const SHORTEST_GAP_S = 0.028;
/** Attacks below this level are room noise, whatever their shape. */
const QUIETEST_DB = -62;
const LEVEL_S = 0.02;

/** A detector fed block by block; gives the same onsets however the sound is cut into blocks. */
export interface OnsetDetector {
  /** The next samples, mono, −1…1. Returns the onsets that are now certain, in order, at sample resolution. */
  push(block: Float32Array): Onset[];
  /** The end of the sound: returns what is left. */
  flush(): Onset[];
}

/**
 * Makes a streaming onset detector: spectral flux every 5 ms, peak picking with a local threshold, then refinement of
 * each peak in the time domain. Onsets come out about 60 ms after they sound.
 */
export const createOnsetDetector = (sampleRateHz: number): OnsetDetector => {
  const hop = Math.round(HOP_S * sampleRateHz);
  const flux = createFlux(sampleRateHz, HOP_S);
  const picker = createPeakPicker(PICKING);
  const ahead = Math.round(Math.max(SEARCH_AFTER_S, LEVEL_S + SEARCH_AFTER_S) * sampleRateHz);
  const behind = Math.round((SEARCH_BEFORE_S + LEARN_S) * sampleRateHz) + flux.fftSize;
  const pickingDelay = (Math.max(PICKING.reach, PICKING.meanAfter) + 2) * hop;
  const keep = behind + ahead + pickingDelay + 2 * flux.fftSize;

  /** The recent sound; `origin` is the stream position of its first sample. */
  let buffer = new Float32Array(4 * keep);
  let length = 0;
  let origin = 0;
  // Frames are centred on multiples of the hop, so the first reach half a window back into silence.
  let nextFrameStart = -flux.fftSize / 2;
  const frame = new Float32Array(flux.fftSize);
  const waiting: number[] = [];
  let last = Number.NEGATIVE_INFINITY;

  const append = (block: Float32Array) => {
    if (length + block.length > buffer.length) {
      const drop = Math.max(0, Math.min(length, nextFrameStart - origin - keep));
      buffer.copyWithin(0, drop, length);
      origin += drop;
      length -= drop;
      if (length + block.length > buffer.length) {
        const larger = new Float32Array(2 * (length + block.length));
        larger.set(buffer.subarray(0, length));
        buffer = larger;
      }
    }
    buffer.set(block, length);
    length += block.length;
  };

  const pick = (value: number) => {
    const peak = picker.next(value);
    if (peak !== null) waiting.push(peak * hop);
  };

  const analyseFrames = (end: number) => {
    while (nextFrameStart + flux.fftSize <= end) {
      frame.fill(0);
      const from = Math.max(origin, nextFrameStart);
      const to = Math.min(origin + length, nextFrameStart + flux.fftSize);
      if (to > from) frame.set(buffer.subarray(from - origin, to - origin), from - nextFrameStart);
      pick(flux.next(frame));
      nextFrameStart += hop;
    }
  };

  const refineWaiting = (end: number): Onset[] => {
    const found: Onset[] = [];
    while (waiting.length && (waiting[0] as number) + ahead <= end) {
      const coarse = (waiting.shift() as number) - origin;
      const from = Math.max(0, coarse - behind);
      const sound = buffer.subarray(from, Math.min(length, coarse + ahead));
      const onset = refineOnset(sound, coarse - from, sampleRateHz);
      const at = origin + from + onset;
      const levelDb = attackLevelDb(sound, onset, sampleRateHz);
      if (levelDb < QUIETEST_DB || at - last < SHORTEST_GAP_S * sampleRateHz) continue;
      last = at;
      found.push({ timeS: at / sampleRateHz, levelDb });
    }
    return found;
  };

  return {
    push(block) {
      append(block);
      analyseFrames(origin + length);
      return refineWaiting(origin + length);
    },
    flush() {
      // No frame reaches past the end: a sound that is cut off would look like an attack. Quiet lets the picker decide.
      for (let frames = 0; frames <= PICKING.reach + PICKING.meanAfter; frames += 1) pick(0);
      return refineWaiting(origin + length + ahead);
    },
  };
};

/** Samples handed on at a time when a whole recording is read. */
const BLOCK = 4096;

/** All onsets of a whole recording (mono, −1…1): the streaming detector run to the end. */
export const detectOnsets = (samples: Float32Array, sampleRateHz: number): Onset[] => {
  const detector = createOnsetDetector(sampleRateHz);
  const onsets: Onset[] = [];
  for (let at = 0; at < samples.length; at += BLOCK) onsets.push(...detector.push(samples.subarray(at, at + BLOCK)));
  return [...onsets, ...detector.flush()];
};
