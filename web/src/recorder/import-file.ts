import {
  constantTempo,
  firstDrill,
  keyOf,
  makeTake,
  newCourse,
  type Passage,
  profileOf,
  type Settings,
  type Take,
} from '@isochron/core';
import { proxy } from 'comlink';
import { presentSitting } from '../stores/sitting';
import type { FileContent, ImportAnswer, ImportRequest } from '../workers/importing';
import { openImporting } from '../workers/open-worker';
import { createChunkWriter } from './chunk-writer';
import { sendUnsent } from './outbox';
import { keepTake } from './safe-store';

/** What a file is measured against. */
export interface ImportChoice {
  file: File;
  passage: Passage;
  tempoBpm: number;
  profileId: string;
  settings: Settings;
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

const aborted = (signal: AbortSignal): Promise<never> =>
  new Promise((_, reject) => {
    signal.addEventListener('abort', () => reject(new DOMException('Stopped.', 'AbortError')));
  });

const measured = async (
  request: ImportRequest,
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<ImportAnswer> => {
  const worker = openImporting();
  try {
    return await Promise.race([worker.ask.measure(request, proxy(onProgress)), worker.broken, aborted(signal)]);
  } finally {
    worker.end();
  }
};

/**
 * Measures a file against a passage and a tempo, and keeps it as a take. Throws with a sentence for the player where it
 * cannot be read or the passage is not found in it.
 */
export const importFile = async (
  choice: ImportChoice,
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<Imported> => {
  const { file, passage, tempoBpm, settings, withoutClick } = choice;
  const { tolerance } = settings;
  const content = await contentOf(file);
  const profile = profileOf(content.kind === 'midi' ? 'midi' : choice.profileId);
  const plain = firstDrill(passage);
  const drill = withoutClick ? { ...plain, click: { ...plain.click, kind: 'none' as const } } : plain;
  const request = { content, drill, tempo: constantTempo(tempoBpm), tolerance, profile };
  const { repetitions, onsetCount, sound, notes } = await measured(request, signal, onProgress);
  if (repetitions.length === 0) {
    throw new Error(
      onsetCount === 0
        ? 'No notes were heard in this file. Check that it is the right one and not silent.'
        : `${onsetCount} notes were heard, but “${passage.title}” at ${tempoBpm} was not found among them. Check the passage and the tempo.`,
    );
  }
  const playedAt = new Date(file.lastModified || Date.now());
  const sitting = presentSitting();
  const take = makeTake({
    id: crypto.randomUUID(),
    sittingId: sitting.id,
    passage,
    course: keyOf(newCourse(passage, settings)),
    startedAt: playedAt,
    endedAt: playedAt,
    input: 'file',
    goalBpm: passage.goalBpm,
    startBpm: tempoBpm,
    school: null,
    tolerance,
    latencyS: null,
    profileId: profile.id,
    drills: [drill],
    repetitions,
    file: { name: file.name, withoutClick },
  });
  let trouble = '';
  if (sound) {
    const writer = createChunkWriter(take.id, sound.sampleRateHz, (message) => {
      trouble = message;
    });
    writer.push(sound.samples, 0);
    await writer.close();
  }
  await keepTake({ sitting, take, complete: true });
  await sendUnsent();
  return { take, notes: trouble ? [...notes, trouble] : notes };
};
