import { findBeats, listenToRecording, profileOf, soundInMemory } from '@isochron/core';

/** What beats were found in a recording, and everything that was heard to begin in it. Times in seconds. */
export interface BeatsFound {
  timesS: number[];
  onsetsS: number[];
  support: number;
}

/** What the page may ask of the worker that finds beats. */
export const findingBeats = {
  /** Finds the beats of a sound; `onProgress` is told the share done, 0…1. */
  find(samples: Float32Array, sampleRateHz: number, onProgress: (share: number) => void): BeatsFound {
    const sound = soundInMemory(samples, sampleRateHz);
    const onsets = listenToRecording(sound, { profile: profileOf('any') }, onProgress);
    const { timesS, support } = findBeats(onsets, samples.length / sampleRateHz);
    return { timesS, support, onsetsS: [...new Set(onsets.map(({ timeS }) => timeS))].sort((a, b) => a - b) };
  },
};
