import type { Onset } from '../schema/measures';
import { createFlux, type Flux, type FluxOptions } from './flux';
import { createPeakPicker, type PeakPicker, type PeakPickerOptions } from './peak-picker';
import { attackLevelDb, fallsAway, LEARN_S, refineOnset, SEARCH_AFTER_S, SEARCH_BEFORE_S } from './refine-onset';

const HOP_S = 0.005;

/** A short window times attacks; a long one hears a change of pitch without an attack. */
const SHORT: FluxOptions = { windowS: 0.0205, bandsPerOctave: 12, lag: 2, forgivesVibrato: true, peakShare: 1e-3 };
const LONG: FluxOptions = { windowS: 0.082, bandsPerOctave: 24, lag: 8, forgivesVibrato: false, peakShare: 4e-4 };
const SHORT_PICKING: PeakPickerOptions = { reach: 5, meanBefore: 20, meanAfter: 5, threshold: 0.09, meanShare: 1 };
const LONG_PICKING: PeakPickerOptions = { reach: 5, meanBefore: 20, meanAfter: 5, threshold: 0.06, meanShare: 0.7 };
/** A peak of the short flux this high is a note in its own right. */
const SHARP_HEIGHT = 0.2;
/** A peak of the long flux this near to a sharp one is the same note. */
const SAME_NOTE_S = 0.045;
/** The long flux tops this much after a slow onset. */
const LONG_LAG_S = 0.005;
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

/** A flux with its picker, walking over the sound at its own pace. */
interface Track {
  flux: Flux;
  picker: PeakPicker;
  frame: Float32Array;
  /** Stream position of the next frame's first sample. */
  nextStart: number;
  /** Stream position of the first frame's middle. */
  firstMiddle: number;
}

/** A track whose first frame begins `firstStart` windows into the stream (negative: it reaches back into silence). */
const createTrack = (sampleRateHz: number, options: FluxOptions, picking: PeakPickerOptions, firstStart: number): Track => {
  const flux = createFlux(sampleRateHz, HOP_S, options);
  const nextStart = firstStart * flux.fftSize;
  const frame = new Float32Array(flux.fftSize);
  return { flux, picker: createPeakPicker(picking), frame, nextStart, firstMiddle: nextStart + flux.fftSize / 2 };
};

/** A note that waits for enough sound to be timed. Positions in samples of the stream. */
interface Candidate {
  at: number;
  isSharp: boolean;
}

/**
 * Makes a streaming onset detector: a short and a long spectral flux every 5 ms, peak picking with a local threshold, then
 * refinement of each sharp peak in the time domain. A note is known less than 100 ms after it sounds.
 */
export const createOnsetDetector = (sampleRateHz: number): OnsetDetector => {
  const hop = Math.round(HOP_S * sampleRateHz);
  // The short track hears a note that begins with the recording; a long window filling up would look like one.
  const short = createTrack(sampleRateHz, SHORT, SHORT_PICKING, -0.5);
  const long = createTrack(sampleRateHz, LONG, LONG_PICKING, 0);
  const ahead = Math.round((LEVEL_S + SEARCH_AFTER_S) * sampleRateHz);
  const behind = Math.round((SEARCH_BEFORE_S + LEARN_S) * sampleRateHz);
  const keep = 2 * long.flux.fftSize + behind + ahead + 20 * hop;

  /** The recent sound; `origin` is the stream position of its first sample. */
  let buffer = new Float32Array(4 * keep);
  let length = 0;
  let origin = 0;
  const waiting: Candidate[] = [];
  let lastSharp = Number.NEGATIVE_INFINITY;
  let last = Number.NEGATIVE_INFINITY;

  const append = (block: Float32Array) => {
    if (length + block.length > buffer.length) {
      const drop = Math.max(0, Math.min(length, long.nextStart - origin - keep));
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

  const takeShort = (value: number) => {
    const peak = short.picker.next(value);
    if (!peak || peak.height < SHARP_HEIGHT) return;
    lastSharp = short.firstMiddle + peak.frame * hop;
    waiting.push({ at: lastSharp, isSharp: true });
  };

  const takeLong = (value: number) => {
    const peak = long.picker.next(value);
    // The short flux is decided earlier, so a sharp peak of the same note is known by now.
    if (!peak) return;
    const at = long.firstMiddle + peak.frame * hop;
    if (at - lastSharp >= SAME_NOTE_S * sampleRateHz) waiting.push({ at: at - LONG_LAG_S * sampleRateHz, isSharp: false });
  };

  const endOf = (track: Track) => track.nextStart + track.flux.fftSize;

  /** The flux of a track's next frame. */
  const step = (track: Track): number => {
    const { frame, flux, nextStart } = track;
    frame.fill(0);
    const from = Math.max(origin, nextStart);
    const to = Math.min(origin + length, nextStart + flux.fftSize);
    if (to > from) frame.set(buffer.subarray(from - origin, to - origin), from - nextStart);
    track.nextStart += hop;
    return flux.next(frame);
  };

  /** Frames are taken in the order in which the sound completes them, so that blocks of any size give the same notes. */
  const analyse = (end: number) => {
    for (;;) {
      if (endOf(short) <= endOf(long)) {
        if (endOf(short) > end) return;
        takeShort(step(short));
      } else {
        if (endOf(long) > end) return;
        takeLong(step(long));
      }
    }
  };

  const timeWaiting = (end: number): Onset[] => {
    const found: Onset[] = [];
    waiting.sort((a, b) => a.at - b.at);
    while (waiting.length && (waiting[0] as Candidate).at + ahead <= end) {
      const { at: coarse, isSharp } = waiting.shift() as Candidate;
      const middle = Math.round(coarse) - origin;
      const from = Math.max(0, middle - behind);
      const sound = buffer.subarray(from, Math.max(from, Math.min(length, middle + ahead)));
      if (!isSharp && fallsAway(sound, middle - from, sampleRateHz)) continue;
      const refined = isSharp ? refineOnset(sound, middle - from, sampleRateHz) : null;
      const onset = Math.max(0, refined ?? middle - from);
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
      analyse(origin + length);
      return timeWaiting(origin + length);
    },
    flush() {
      // No frame reaches past the end: a sound that is cut off would look like an attack. Quiet lets the pickers decide.
      for (let frames = 0; frames <= SHORT_PICKING.reach; frames += 1) takeShort(0);
      for (let frames = 0; frames <= LONG_PICKING.reach; frames += 1) takeLong(0);
      return timeWaiting(origin + length + ahead);
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
