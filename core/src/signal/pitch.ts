import { PitchDetector } from 'pitchy';

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
