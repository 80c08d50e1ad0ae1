import type { Onset } from '../schema/measures';
import { createOnsetDetector } from '../signal/detect-onsets';
import { withHeardPitches } from '../signal/pitch';
import type { Profile } from '../signal/profiles';

/** Progress is told about this often, in seconds of sound. */
const PIECE_S = 2;

/** The onsets of a whole recording, with pitch where the profile has it. `onProgress` is told the share done, 0…1. */
export const listenToRecording = (
  samples: Float32Array,
  sampleRateHz: number,
  profile: Profile,
  onProgress: (share: number) => void = () => {},
): Onset[] => {
  const detector = createOnsetDetector(sampleRateHz, { family: profile.family });
  const onsets: Onset[] = [];
  const piece = Math.round(PIECE_S * sampleRateHz);
  for (let at = 0; at < samples.length; at += piece) {
    onsets.push(...detector.push(samples.subarray(at, at + piece)));
    onProgress(Math.min(1, (at + piece) / samples.length));
  }
  onsets.push(...detector.flush());
  return profile.hasPitch ? withHeardPitches(onsets, samples, sampleRateHz) : onsets;
};
