import {
  type Drill,
  listenToRecording,
  measureImport,
  type Onset,
  type Profile,
  profileOf,
  type Repetition,
  readSmf,
  readWav,
  type TempoMapDocument,
  type Tolerance,
} from '@isochron/core';
import { transfer } from 'comlink';

/** A file to be measured: a MIDI file's bytes, or sound. */
export type FileContent =
  | { kind: 'midi'; bytes: Uint8Array }
  | { kind: 'wav'; bytes: Uint8Array }
  | { kind: 'sound'; samples: Float32Array; sampleRateHz: number };

/** What a file is measured against. */
export interface ImportRequest {
  content: FileContent;
  drill: Drill;
  tempo: TempoMapDocument;
  tolerance: Tolerance;
  profile: Profile;
}

/** What a file came to. */
export interface ImportAnswer {
  repetitions: Repetition[];
  onsetCount: number;
  /** The sound, where there is one. */
  sound: { samples: Float32Array<ArrayBuffer>; sampleRateHz: number } | null;
  /** What had to be put right, in sentences. */
  notes: string[];
}

interface Sound {
  samples: Float32Array;
  sampleRateHz: number;
  notes: string[];
}

const soundOf = (content: Exclude<FileContent, { kind: 'midi' }>): Sound =>
  content.kind === 'wav' ? readWav(content.bytes) : { ...content, notes: [] };

/** What the page may ask of the importing worker. */
export const importing = {
  /** Measures a file; `onProgress` is told the share done, 0…1. Throws with a sentence where it cannot be read. */
  measure({ content, profile, ...plan }: ImportRequest, onProgress: (share: number) => void): ImportAnswer {
    let onsets: Onset[];
    let sound: Sound | null = null;
    if (content.kind === 'midi') onsets = readSmf(content.bytes);
    else {
      sound = soundOf(content);
      onsets = listenToRecording(sound.samples, sound.sampleRateHz, profile, onProgress);
    }
    const used = content.kind === 'midi' ? profileOf('midi') : profile;
    const repetitions = measureImport(onsets, { ...plan, profile: used });
    const samples = sound && Float32Array.from(sound.samples);
    const answer: ImportAnswer = {
      repetitions,
      onsetCount: onsets.length,
      sound: sound && samples && { samples, sampleRateHz: sound.sampleRateHz },
      notes: sound?.notes ?? [],
    };
    return samples ? transfer(answer, [samples.buffer]) : answer;
  },
};
