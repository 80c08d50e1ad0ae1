import { listenToRecording, measureImport, type Profile, profileOf } from '@isochron/core/analysis';
import { type ByteSource, openWav, readSmf, type SoundSource, soundInMemory } from '@isochron/core/material';
import type { Drill, Onset, Repetition, TempoMapDocument, Tolerance } from '@isochron/core/schema';
import { createChunkWriter } from '../recorder/chunk-writer';
import type { Chunk } from '../recorder/safe-store';

/** A file to be measured: a MIDI file's bytes, a WAV file of any length, or sound that was decoded. */
export type FileContent =
  | { kind: 'midi'; bytes: Uint8Array }
  | { kind: 'wav'; file: File }
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
  hasSound: boolean;
  /** What had to be put right, in sentences. */
  notes: string[];
}

/** A file's bytes by parts, so that hours of sound need no more memory than seconds. */
const bytesOf = (file: File): ByteSource => {
  const reader = new FileReaderSync();
  return { size: file.size, read: (from, to) => new Uint8Array(reader.readAsArrayBuffer(file.slice(from, to))) };
};

const soundOf = (content: Exclude<FileContent, { kind: 'midi' }>): SoundSource =>
  content.kind === 'wav' ? openWav(bytesOf(content.file)) : soundInMemory(content.samples, content.sampleRateHz);

/** The sound of the file that was measured last. */
let sound: SoundSource | null = null;

/** What the page may ask of the importing worker. */
export const importing = {
  /** Measures a file; `onProgress` is told the share done, 0…1. Throws with a sentence where it cannot be read. */
  measure({ content, profile, ...plan }: ImportRequest, onProgress: (share: number) => void): ImportAnswer {
    let onsets: Onset[];
    sound = null;
    if (content.kind === 'midi') onsets = readSmf(content.bytes);
    else {
      sound = soundOf(content);
      onsets = listenToRecording(sound, { profile, grid: plan.drill.listen ? undefined : plan.drill.grid }, onProgress);
    }
    const used = content.kind === 'midi' ? profileOf('midi') : profile;
    const repetitions = measureImport(onsets, { ...plan, profile: used });
    return { repetitions, onsetCount: onsets.length, hasSound: sound !== null, notes: sound?.notes ?? [] };
  },
  /** Keeps the sound of the file that was measured as a take's recording; gives back what the browser did not take. */
  async keepSound(takeId: string, onTrouble: (message: string) => void): Promise<Chunk[]> {
    if (!sound) return [];
    const { frames, sampleRateHz, read } = sound;
    const writer = createChunkWriter(takeId, sampleRateHz, onTrouble);
    for (let at = 0; at < frames; at += sampleRateHz) {
      writer.push(read(at, at + sampleRateHz), at);
      await writer.written();
    }
    return writer.close();
  },
};
