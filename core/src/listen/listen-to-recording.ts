import type { SoundSource } from '../formats/sound-source';
import type { Onset } from '../schema/measures';
import { createOnsetDetector } from '../signal/detect-onsets';
import { createNoteEar } from '../signal/note-ear';
import type { Profile } from '../signal/profiles';

/** Progress is told about this often, in seconds of sound. */
const PIECE_S = 2;

/** The onsets of a whole recording, with pitch where the profile has it. `onProgress` is told the share done, 0…1. */
export const listenToRecording = (
  { sampleRateHz, frames, read }: SoundSource,
  profile: Profile,
  onProgress: (share: number) => void = () => {},
): Onset[] => {
  const detector = createOnsetDetector(sampleRateHz, { family: profile.family });
  const ear = createNoteEar(sampleRateHz, 0, profile.hasPitch);
  const onsets: Onset[] = [];
  const piece = Math.round(PIECE_S * sampleRateHz);
  for (let at = 0; at < frames; at += piece) {
    const block = read(at, at + piece);
    onsets.push(...detector.push(block));
    ear.append(block);
    ear.hear(onsets, false);
    onProgress(Math.min(1, (at + piece) / frames));
  }
  onsets.push(...detector.flush());
  ear.hear(onsets, true);
  return onsets;
};
