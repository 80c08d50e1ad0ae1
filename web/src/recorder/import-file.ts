import { profileOf, toleranceFor } from '@isochron/core/analysis';
import { constantTempo, soundHead } from '@isochron/core/material';
import { firstDrill, newPracticeConfig } from '@isochron/core/planning';
import { AppError, nowMs, type Passage, practiceConfigKey, type Settings, type Take } from '@isochron/core/schema';
import { makeTake } from '@isochron/core/strategy';
import { proxy } from 'comlink';
import { decodeSound, monoOf } from '../audio/decode-sound';
import { presentPracticeSession } from '../stores/practice-session';
import type { FileContent, ImportRequest, importing } from '../workers/importing';
import { type OpenWorker, openImporting } from '../workers/open-worker';
import { beginTake, endTake, keepForSending, sendUnsent } from './outbox';
import { holdChunks } from './unsent';

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

const TOO_LARGE =
  'The file is larger than 700 MB. Export it as WAV, which may be of any length, or keep only the part you want.';
/** What is not read by parts must fit into memory, decoded. */
const LARGEST_BYTES = 700_000_000;
const WAV_FORMS = new Set(['RIFF', 'RF64', 'BW64']);
/** AIFF and CAF: read by parts as well where they are not compressed. */
const OTHER_FORMS = new Set(['FORM', 'caff']);
const HEAD_BYTES = 65_536;

const isReadable = async (file: File): Promise<boolean> => {
  const start = new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer());
  try {
    soundHead({ size: file.size, read: (from, to) => start.subarray(from, to) });
    return true;
  } catch {
    return false;
  }
};

const decode = async (bytes: ArrayBuffer): Promise<FileContent> => {
  const buffer = await decodeSound(bytes);
  return { kind: 'sound', samples: monoOf(buffer), sampleRateHz: buffer.sampleRate };
};

/** What a file holds, by its first bytes: names may be wrong. WAV, AIFF and CAF are left where they are and read by parts. */
const contentOf = async (file: File): Promise<FileContent> => {
  if (file.size === 0) throw new AppError('The file is empty. Choose a recording with notes in it.');
  const head = new TextDecoder('latin1').decode(await file.slice(0, 4).arrayBuffer());
  if (WAV_FORMS.has(head) || (OTHER_FORMS.has(head) && (await isReadable(file)))) return { kind: 'wav', file };
  if (file.size > LARGEST_BYTES) throw new AppError(TOO_LARGE);
  const buffer = await file.arrayBuffer();
  return head === 'MThd' ? { kind: 'midi', bytes: new Uint8Array(buffer) } : decode(buffer);
};

const aborted = (signal: AbortSignal): Promise<never> =>
  new Promise((_, reject) => {
    signal.addEventListener('abort', () => reject(new DOMException('Stopped.', 'AbortError')));
  });

/**
 * Measures a file against a passage and a tempo, and keeps it as a take. Throws with a sentence for the player where it
 * cannot be read or the passage is not found in it.
 */
export const importFile = async (
  choice: ImportChoice,
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<Imported> => {
  const { file, passage, tempoBpm, withoutClick } = choice;
  const content = await contentOf(file);
  const profile = profileOf(content.kind === 'midi' ? 'midi' : choice.profileId);
  const tolerance = toleranceFor(choice.settings.tolerance, profile);
  const plain = firstDrill(passage);
  const drill = withoutClick ? { ...plain, click: { ...plain.click, kind: 'none' as const } } : plain;
  const request = { content, drill, tempo: constantTempo(tempoBpm), tolerance, profile };
  const worker = openImporting();
  try {
    return await Promise.race([measureAndKeep(choice, request, worker, onProgress), worker.broken, aborted(signal)]);
  } finally {
    worker.end();
  }
};

const measureAndKeep = async (
  { file, passage, tempoBpm, settings, withoutClick }: ImportChoice,
  request: ImportRequest,
  { ask }: OpenWorker<typeof importing>,
  onProgress: (share: number) => void,
): Promise<Imported> => {
  const { repetitions, onsetCount, hasSound, notes } = await ask.measure(request, proxy(onProgress));
  if (repetitions.length === 0) {
    throw new AppError(
      onsetCount === 0
        ? 'No notes were heard in this file. Check that it is the right one and not silent.'
        : `${onsetCount} notes were heard, but “${passage.title}” at ${tempoBpm} was not found among them. Check the passage and the tempo. If they are right, the recording may be too soft, too noisy or ring too long to be heard: bring the microphone nearer, or play MIDI.`,
    );
  }
  // A file from tomorrow is one of a device whose clock is wrong.
  const playedAt = new Date(Math.min(file.lastModified || nowMs(), nowMs()));
  const session = presentPracticeSession();
  const take = makeTake({
    id: crypto.randomUUID(),
    sessionId: session.id,
    passage,
    config: practiceConfigKey(newPracticeConfig(passage, settings)),
    startedAt: playedAt,
    endedAt: playedAt,
    input: 'file',
    goalBpm: passage.goalBpm,
    startBpm: tempoBpm,
    strategy: null,
    tolerance: request.tolerance,
    latencyS: null,
    profileId: request.profile.id,
    drills: [request.drill],
    repetitions,
    file: { name: file.name, withoutClick },
  });
  const troubles: string[] = [];
  beginTake(take.id);
  try {
    if (hasSound)
      holdChunks(
        await ask.keepSound(
          take.id,
          proxy((message: string) => void troubles.push(message)),
        ),
      );
    await keepForSending({ session, take, complete: true });
  } finally {
    endTake(take.id);
  }
  await sendUnsent();
  return { take, notes: [...notes, ...troubles] };
};
