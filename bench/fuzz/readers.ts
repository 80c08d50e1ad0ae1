import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
// Each from its own file: the code that is counted is then little more than the readers.
import { readMidiMessage } from '../../core/src/formats/midi-message';
import { readTempoLog } from '../../core/src/formats/practice-csv';
import { readPassageFile } from '../../core/src/formats/score/passage-files';
import { UnreadableScore } from '../../core/src/formats/score/score';
import { readSmf, UnreadableMidi } from '../../core/src/formats/smf';
import { UnreadableWav } from '../../core/src/formats/sound-head';
import { openWav } from '../../core/src/formats/wav';
import { AppError } from '../../core/src/schema/app-error';
import { SolutionSchema } from '../../core/src/schema/library';
import { PassageSchema } from '../../core/src/schema/passage';
import { PracticeConfigChangeSchema } from '../../core/src/schema/practice-config';
import { PracticeSessionSchema } from '../../core/src/schema/practice-session';
import { readSettings } from '../../core/src/schema/settings';
import { TakeSchema } from '../../core/src/schema/take';
import { ManifestSchema } from '../../server/src/backup/manifest';
import { unpackBackup } from '../../server/src/backup/unpack';
import { RequestError } from '../../server/src/request-error';

/** A reader of what others wrote. */
export interface Reader {
  name: string;
  /** Reads; throws only what is no refusal. */
  read(bytes: Uint8Array): void | Promise<void>;
}

const text = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

/** Runs a reader; its own refusals are what it is for. */
const orRefused = async (read: () => unknown, isRefusal: (error: unknown) => boolean): Promise<void> => {
  try {
    await read();
  } catch (error) {
    if (!isRefusal(error)) throw error;
  }
};

/** A score reader by the ending of its file: what it reads must be what the server stores. */
const score = (name: string, ending: string): Reader => ({
  name,
  read: (bytes) =>
    orRefused(
      async () => PassageSchema.parse((await readPassageFile(`file${ending}`, bytes, 'read')).passage),
      (error) => error instanceof UnreadableScore,
    ),
});

const parsed = (bytes: Uint8Array): unknown => {
  try {
    return JSON.parse(text(bytes));
  } catch {
    return undefined;
  }
};

/** So many frames of a sound are read at its beginning and at its end. */
const SOUND_FRAMES = 4096;

/** Every reader of files and of requests, by name. */
export const READERS: readonly Reader[] = [
  score('musicxml', '.musicxml'),
  score('mxl', '.mxl'),
  score('midi', '.mid'),
  score('abc', '.abc'),
  score('text', '.txt'),
  {
    name: 'wav',
    read: (bytes) =>
      orRefused(
        () => {
          const sound = openWav({ size: bytes.length, read: (from, to) => bytes.subarray(from, to) });
          sound.read(0, SOUND_FRAMES);
          sound.read(sound.frames - SOUND_FRAMES, sound.frames);
        },
        (error) => error instanceof UnreadableWav,
      ),
  },
  {
    name: 'onsets-midi',
    read: (bytes) =>
      orRefused(
        () => readSmf(bytes),
        (error) => error instanceof UnreadableMidi,
      ),
  },
  { name: 'midi-message', read: (bytes) => void readMidiMessage(bytes) },
  {
    name: 'tempo-log',
    read: (bytes) =>
      orRefused(
        () => readTempoLog(text(bytes), bytes.length % 2 === 0),
        (error) => error instanceof AppError,
      ),
  },
  {
    name: 'backup',
    async read(bytes) {
      const folder = mkdtempSync(join(tmpdir(), 'fuzzed-'));
      try {
        const file = join(folder, 'backup.zip');
        writeFileSync(file, bytes);
        await orRefused(
          () => unpackBackup(file, join(folder, 'into'), () => {}),
          (error) => error instanceof RequestError,
        );
      } finally {
        rmSync(folder, { recursive: true, maxRetries: 5 });
      }
    },
  },
  {
    name: 'documents',
    read(bytes) {
      const document = parsed(bytes);
      for (const schema of [
        TakeSchema,
        PassageSchema,
        PracticeSessionSchema,
        SolutionSchema,
        PracticeConfigChangeSchema,
        ManifestSchema,
      ])
        schema.safeParse(document);
      readSettings(document);
    },
  },
];
