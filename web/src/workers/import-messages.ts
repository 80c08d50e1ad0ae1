import type { Exercise, Profile, Repetition, Tolerance } from '@isochron/core';

/** A file to be measured: a MIDI file's bytes, or sound. */
export type FileContent =
  | { kind: 'midi'; bytes: Uint8Array }
  | { kind: 'wav'; bytes: Uint8Array }
  | { kind: 'sound'; samples: Float32Array; sampleRateHz: number };

/** To the importing worker. */
export interface ImportRequest {
  content: FileContent;
  exercise: Exercise;
  tempoBpm: number;
  tolerance: Tolerance;
  profile: Profile;
}

/** From the importing worker. */
export type ImportAnswer =
  | { type: 'progress'; share: number }
  | {
      type: 'measured';
      repetitions: Repetition[];
      onsetCount: number;
      /** The sound, where there is one. */
      sound: { samples: Float32Array<ArrayBuffer>; sampleRateHz: number } | null;
      /** What had to be put right, in sentences. */
      notes: string[];
    }
  | { type: 'failed'; message: string };
