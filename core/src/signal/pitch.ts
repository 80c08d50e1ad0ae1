import { PitchDetector } from 'pitchy';
import type { Onset } from '../schema/measures';
import { createSampleBuffer } from './sample-buffer';

/** Below this clarity (0…1) a sound has no single pitch: noise, a chord, or two notes that ring together. */
const CLEAR = 0.9;
/** The beginning of a note is left out: attacks have no pitch. */
const AFTER_ONSET_S = 0.025;
const LONGEST_FRAME_S = 0.1;
const SHORTEST_FRAME_S = 0.025;

/** MIDI note number of a frequency in equal temperament, A = 440 Hz (ISO 16); fractions are hundredths of a semitone. */
export const midiOfHz = (hz: number): number => 69 + 12 * Math.log2(hz / 440);

const detectors = new Map<number, PitchDetector<Float32Array>>();
const detectorOf = (size: number) => {
  const made = detectors.get(size) ?? PitchDetector.forFloat32Array(size);
  detectors.set(size, made);
  return made;
};

/**
 * The pitch of a note as a fractional MIDI number, or null where it has no single clear one. Listens from shortly after the
 * onset to the next onset, for up to 0.1 s; a note shorter than 50 ms is not tried. Times in samples.
 * Method: McLeod & Wyvill, "A smarter way to find pitch", ICMC 2005, by the pitchy package.
 */
export const pitchOfNote = (samples: Float32Array, onset: number, nextOnset: number, sampleRateHz: number): number | null => {
  const from = Math.round(onset + AFTER_ONSET_S * sampleRateHz);
  const room = Math.min(samples.length, nextOnset) - from;
  if (room < SHORTEST_FRAME_S * sampleRateHz) return null;
  const size = 2 ** Math.floor(Math.log2(Math.min(room, LONGEST_FRAME_S * sampleRateHz)));
  const [hz, clarity] = detectorOf(size).findPitch(samples.subarray(from, from + size), sampleRateHz);
  return clarity >= CLEAR && hz > 20 ? midiOfHz(hz) : null;
};

/** A detector tells of an onset at most this long after it. */
const DETECTOR_DELAY_S = 0.1;
/** From so long after an onset on everything is known that its pitch is told by. */
const KNOWN_AFTER_S = AFTER_ONSET_S + LONGEST_FRAME_S + DETECTOR_DELAY_S;

/** Hears the pitches of notes while their sound goes on. */
export interface PitchEar {
  append(block: Float32Array): void;
  /** Adds the pitch to those `onsets` (ascending in time) that it can be told of by now; of all that are left where `isOver`. */
  hear(onsets: Onset[], isOver: boolean): void;
}

/**
 * Makes a {@link PitchEar} for a sound whose first sample is sample `firstFrame` of the clock that the onsets are on. Pitches
 * are told note by note, so that nothing is left to do for all of them at the end; one that is known already is kept.
 */
export const createPitchEar = (sampleRateHz: number, firstFrame: number): PitchEar => {
  const sound = createSampleBuffer(Math.round(4 * KNOWN_AFTER_S * sampleRateHz));
  const knownAfter = Math.round(KNOWN_AFTER_S * sampleRateHz);
  const at = (onset: Onset) => Math.round(onset.timeS * sampleRateHz) - firstFrame;
  let heard = 0;
  return {
    append: sound.append,
    hear(onsets, isOver) {
      for (; heard < onsets.length; heard += 1) {
        const onset = onsets[heard] as Onset;
        const from = at(onset);
        const room = sound.end() - from;
        if (!isOver && room < knownAfter) return;
        const next = onsets[heard + 1];
        const length = Math.max(0, Math.min(room, knownAfter));
        const until = next ? at(next) - from : length;
        const pitch = onset.pitch ?? pitchOfNote(sound.view(from, length), 0, until, sampleRateHz);
        if (pitch !== null) onsets[heard] = { ...onset, pitch };
      }
    },
  };
};
