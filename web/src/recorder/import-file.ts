import { closeTake, ENGINE_VERSION, type Exercise, profileOf, type Take, type Tolerance } from '@isochron/core';
import { SESSION } from '../stores/session';
import type { FileContent, ImportAnswer, ImportRequest } from '../workers/import-messages';
import { createChunkWriter } from './chunk-writer';
import { sendUnsent } from './outbox';
import { keepTake } from './safe-store';

/** What a file is measured against. */
export interface ImportChoice {
  file: File;
  exercise: Exercise;
  tempoBpm: number;
  profileId: string;
  tolerance: Tolerance;
  withoutClick: boolean;
}

/** A file became a take. `notes` are sentences about what had to be put right in it. */
export interface Imported {
  take: Take;
  notes: string[];
}

const UNDECODABLE =
  'The browser cannot read sound from this file. Export it as WAV (16 or 24 bit) or as a Standard MIDI File, and try again.';
const LARGEST_BYTES = 700_000_000;

const decode = async (bytes: ArrayBuffer): Promise<FileContent> => {
  const context = new OfflineAudioContext(1, 1, 48_000);
  try {
    const buffer = await context.decodeAudioData(bytes);
    const samples = new Float32Array(buffer.length);
    for (let channel = 0; channel < buffer.numberOfChannels; channel += 1) {
      const one = buffer.getChannelData(channel);
      for (let n = 0; n < samples.length; n += 1)
        samples[n] = (samples[n] as number) + (one[n] as number) / buffer.numberOfChannels;
    }
    return { kind: 'sound', samples, sampleRateHz: buffer.sampleRate };
  } catch {
    throw new Error(UNDECODABLE);
  }
};

/** What a file holds, by its first bytes: names may be wrong. */
const contentOf = async (file: File): Promise<FileContent> => {
  if (file.size === 0) throw new Error('The file is empty. Choose a recording with notes in it.');
  if (file.size > LARGEST_BYTES) throw new Error('The file is larger than 700 MB. Cut out the part you want and try again.');
  const buffer = await file.arrayBuffer();
  const head = new TextDecoder('latin1').decode(buffer.slice(0, 4));
  if (head === 'MThd') return { kind: 'midi', bytes: new Uint8Array(buffer) };
  if (head === 'RIFF') return { kind: 'wav', bytes: new Uint8Array(buffer) };
  return decode(buffer);
};

const measured = (
  request: ImportRequest,
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<Extract<ImportAnswer, { type: 'measured' }>> =>
  new Promise((resolve, reject) => {
    const worker = new Worker(new URL('../workers/import.worker.ts', import.meta.url), { type: 'module' });
    const settle = (finish: () => void) => {
      worker.terminate();
      finish();
    };
    signal.addEventListener('abort', () => settle(() => reject(new DOMException('Stopped.', 'AbortError'))));
    worker.onmessage = ({ data }: MessageEvent<ImportAnswer>) => {
      if (data.type === 'progress') onProgress(data.share);
      else if (data.type === 'failed') settle(() => reject(new Error(data.message)));
      else settle(() => resolve(data));
    };
    worker.onerror = () => settle(() => reject(new Error('The measuring part of Isochron did not start. Reload the page.')));
    worker.postMessage(request);
  });

/**
 * Measures a file against an exercise and a tempo, and keeps it as a take. Throws with a sentence for the player where it
 * cannot be read or the exercise is not found in it.
 */
export const importFile = async (
  choice: ImportChoice,
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<Imported> => {
  const { file, exercise, tempoBpm, tolerance, withoutClick } = choice;
  const content = await contentOf(file);
  const profile = profileOf(content.kind === 'midi' ? 'midi' : choice.profileId);
  const answer = await measured({ content, exercise, tempoBpm, tolerance, profile }, signal, onProgress);
  const { repetitions, onsetCount, sound, notes } = answer;
  if (repetitions.length === 0) {
    throw new Error(
      onsetCount === 0
        ? 'No notes were heard in this file. Check that it is the right one and not silent.'
        : `${onsetCount} notes were heard, but “${exercise.title}” at ${tempoBpm} was not found among them. Check the exercise and the tempo.`,
    );
  }
  const startedAt = new Date(file.lastModified || Date.now());
  const take: Take = {
    id: crypto.randomUUID(),
    sessionId: SESSION.id,
    exerciseId: exercise.id,
    startedAt: startedAt.toISOString(),
    endedAt: startedAt.toISOString(),
    input: 'file',
    engine: ENGINE_VERSION,
    school: 'none',
    goalBpm: exercise.goalBpm,
    startBpm: tempoBpm,
    stepBpm: 0,
    tolerance,
    latencyS: null,
    profile: profile.id,
    withoutClick,
    sourceFile: file.name.slice(0, 200),
    closing: closeTake(repetitions, exercise.goalBpm),
    hasRecording: false,
    repetitions,
  };
  let trouble = '';
  if (sound) {
    const writer = createChunkWriter(take.id, sound.sampleRateHz, (message) => {
      trouble = message;
    });
    writer.push(sound.samples, 0);
    await writer.close();
  }
  await keepTake({ session: SESSION, take, complete: true });
  await sendUnsent();
  return { take, notes: trouble ? [...notes, trouble] : notes };
};
