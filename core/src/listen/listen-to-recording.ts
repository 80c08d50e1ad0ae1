import type { SoundSource } from '../formats/sound-source';
import { pitchSequence } from '../rhythm/grid-shape';
import type { Grid } from '../schema/grid';
import type { Onset } from '../schema/measures';
import { createOnsetDetector } from '../signal/detect-onsets';
import { createNoteOnsetModel } from '../signal/onset-model/note-onset-model';
import type { Profile } from '../signal/profiles';

/** Progress is told about this often, in seconds of sound. */
const PIECE_S = 2;

/** What is played over and over: after its last note its first one follows. */
const repeated = (sequence: readonly number[][]): number[][] => [...sequence, ...sequence.slice(0, 1)];

/**
 * The onsets of a whole recording, with pitch where the profile has it. Where what is played is known (`grid`), its pitches sharpen
 * what is heard. `onProgress` is told the share done, 0…1.
 */
export const listenToRecording = (
  { sampleRateHz, frames, read }: SoundSource,
  { profile, grid }: { profile: Profile; grid?: Grid },
  onProgress: (share: number) => void = () => {},
): Onset[] => {
  const detector = createOnsetDetector(sampleRateHz, {
    family: profile.family,
    score: grid && profile.hasPitch ? repeated(pitchSequence(grid)) : undefined,
  });
  const ear = createNoteOnsetModel(sampleRateHz, 0, profile.hasPitch);
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
