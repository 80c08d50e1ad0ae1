import { type BeatsInRecording, beatsInRecording } from '@isochron/core/analysis';
import { soundInMemory } from '@isochron/core/material';

/** What the page may ask of the worker that finds beats. */
export const findingBeats = {
  /** Finds the beats of a sound; `onProgress` is told the share done, 0…1. */
  find: (samples: Float32Array, sampleRateHz: number, onProgress: (share: number) => void): BeatsInRecording =>
    beatsInRecording(soundInMemory(samples, sampleRateHz), onProgress),
};
