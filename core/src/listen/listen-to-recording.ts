import type { Onset } from '../schema/measures';
import { createOnsetDetector } from '../signal/detect-onsets';
import { createPitchEar } from '../signal/pitch';
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
  const ear = profile.hasPitch ? createPitchEar(sampleRateHz, 0) : null;
  const onsets: Onset[] = [];
  const piece = Math.round(PIECE_S * sampleRateHz);
  for (let at = 0; at < samples.length; at += piece) {
    const block = samples.subarray(at, at + piece);
    onsets.push(...detector.push(block));
    ear?.append(block);
    ear?.hear(onsets, false);
    onProgress(Math.min(1, (at + piece) / samples.length));
  }
  onsets.push(...detector.flush());
  ear?.hear(onsets, true);
  return onsets;
};
