import { type FoundBeats, findBeats } from '../beats/find-beats';
import type { SoundSource } from '../formats/sound-source';
import { profileOf } from '../signal/profiles';
import { listenToRecording } from './listen-to-recording';

/** The beats that were found in a recording, and everything that was heard to begin in it; in seconds, ascending. */
export interface BeatsInRecording extends FoundBeats {
  onsetsS: number[];
}

/** Finds the beats of a recording of whatever instruments. `onProgress` is told the share that was listened to, 0…1. */
export const beatsInRecording = (sound: SoundSource, onProgress?: (share: number) => void): BeatsInRecording => {
  const onsets = listenToRecording(sound, { profile: profileOf('any') }, onProgress);
  const onsetsS = [...new Set(onsets.map(({ timeS }) => timeS))].sort((a, b) => a - b);
  return { ...findBeats(onsets, sound.frames / sound.sampleRateHz), onsetsS };
};
