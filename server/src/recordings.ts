import { type Hash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { open, readdir, rename, rm, truncate } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { LARGEST_RECORDING_BYTES } from '@isochron/core/schema';
import type { Transaction } from 'sequelize';
import { countingStream } from './counting-stream';
import type { Store } from './database/open';
import { fileSize } from './file-size';
import { RequestError } from './request-error';
import { type SoundState, soundState } from './sound-check';
import { forgetHashes, hashUpTo, noteHash } from './upload-hashes';

const UNFINISHED = '.part';
/** The shortest file that says what it is: its form, its size, WAVE. */
const HEAD_BYTES = 12;
const FORMS = new Set(['RIFF', 'RF64']);

/** A piece of an upload, as its request says it. */
export interface RecordingPart {
  /** Names the upload; two that come at once do not meet. */
  uploadId: string;
  /** Address of the piece's first byte in the file. */
  from: number;
  /** Length of the whole file; null where this piece is all of it. */
  of: number | null;
  /** Length of the piece as announced, or null. */
  announcedBytes: number | null;
  /** SHA-256 of the piece in hexadecimal, or null where the sender gave none. */
  sha256: string | null;
}

/** A whole recording that comes in one piece, of unknown length. */
export const wholeRecording = (): RecordingPart => ({
  uploadId: randomUUID(),
  from: 0,
  of: null,
  announcedBytes: null,
  sha256: null,
});

/** What is said where a recording comes before its take. */
export const NO_TAKE = 'Store the take before its recording.';
const NOT_WHOLE = 'The recording did not reach the disk whole. Free some space; it is kept in the browser until then.';

/**
 * Appends a piece to an unfinished file and makes sure that it is there: its length and its checksum. `whole` goes on with the checksum
 * of the file. Gives back the piece's length.
 */
const append = async (
  source: Readable,
  unfinished: string,
  part: RecordingPart,
  whole: Hash,
  mostBytes = LARGEST_RECORDING_BYTES,
): Promise<number> => {
  const { from, announcedBytes } = part;
  let left = (part.of ?? mostBytes) - from;
  const { stream, result } = countingStream((more, chunk) => {
    whole.update(chunk);
    left -= more;
    if (left < 0) throw new RequestError(413, 'The recording is longer than it says and was not stored.');
  });
  await pipeline(source, stream, createWriteStream(unfinished, from === 0 ? { flags: 'w' } : { flags: 'r+', start: from }));
  const handle = await open(unfinished, 'r+');
  try {
    // On the disk, and not only on its way there.
    await handle.sync();
  } finally {
    await handle.close();
  }
  const { bytes, sha256 } = result();
  if ((await fileSize(unfinished)) !== from + bytes || (announcedBytes !== null && bytes !== announcedBytes))
    throw new RequestError(507, NOT_WHOLE);
  if (part.sha256 !== null && part.sha256 !== sha256)
    throw new RequestError(503, 'A piece of the recording arrived changed. It will be sent once more.');
  return bytes;
};

/** A file of sound that was stored. */
export interface StoredFile {
  bytes: number;
  sha256: string;
}

/**
 * Stores a file that comes in one piece, whole or not at all, in one go with what `claim` writes: so that there is never a file that
 * nothing names. Throws a RequestError.
 */
export const storeWhole = async (
  { recordingsFolder, write }: Pick<Store, 'recordingsFolder' | 'write'>,
  file: string,
  source: Readable,
  limits: { announcedBytes: number | null; mostBytes: number },
  claim: (known: StoredFile, transaction: Transaction) => Promise<unknown>,
): Promise<void> => {
  const { announcedBytes, mostBytes } = limits;
  const unfinished = join(recordingsFolder, `${file}.${randomUUID()}${UNFINISHED}`);
  const whole = hashUpTo(unfinished, 0) as Hash;
  try {
    const bytes = await append(source, unfinished, { ...wholeRecording(), announcedBytes }, whole, mostBytes);
    const sha256 = whole.digest('hex');
    await write(async (transaction) => {
      await claim({ bytes, sha256 }, transaction);
      await rename(unfinished, join(recordingsFolder, file));
    });
  } catch (error) {
    await rm(unfinished, { force: true });
    throw error;
  }
};

/** Refuses what is no WAV file by its first bytes. */
const checkHead = async (path: string): Promise<void> => {
  const handle = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    if (bytesRead === 0) throw new RequestError(400, 'The recording is empty.');
    if (bytesRead < HEAD_BYTES || !FORMS.has(buffer.toString('latin1', 0, 4)) || buffer.toString('latin1', 8, 12) !== 'WAVE')
      throw new RequestError(400, 'The recording is not a WAV file.');
  } finally {
    await handle.close();
  }
};

/**
 * Stores a take's recording, or a piece of it: under a name of its own, synced, its length and checksum verified; with the last
 * piece it is renamed, so that a recording is there whole or not at all. A piece whose answer was lost may come again. Gives back how
 * much of the file is there, and whether that is all. Throws a RequestError; with 409 the upload is to begin anew.
 */
export const putRecording = async (
  store: Store,
  takeId: string,
  source: Readable,
  part: RecordingPart = wholeRecording(),
): Promise<{ bytes: number; done: boolean }> => {
  const { uploadId, from, of } = part;
  const unfinished = join(store.recordingsFolder, `${takeId}.wav.${uploadId}${UNFINISHED}`);
  if (of !== null && of > LARGEST_RECORDING_BYTES)
    throw new RequestError(413, 'The recording is longer than a day and was not stored.');
  const there = (await fileSize(unfinished)) ?? 0;
  const whole = hashUpTo(unfinished, from);
  if (there < from || !whole)
    throw new RequestError(409, 'The beginning of this recording is not here. It will be sent once more.');
  if (from > 0 && there > from) await truncate(unfinished, from);
  let bytes: number;
  try {
    bytes = from + (await append(source, unfinished, part, whole));
    if (of !== null && bytes < of) {
      noteHash(unfinished, bytes, whole);
      return { bytes, done: false };
    }
    await checkHead(unfinished);
  } catch (error) {
    // What was there before this piece may be gone on with.
    if (from > 0) await truncate(unfinished, from).catch(() => {});
    else await rm(unfinished, { force: true });
    throw error;
  }
  forgetHashes(unfinished);
  const sha256 = whole.digest('hex');
  await place(store, takeId, unfinished, { bytes, sha256, mark: uploadId.slice(0, 8) });
  return { bytes, done: true };
};

/**
 * Puts a whole file in the place of a take's recording, in one go with its row, so that whoever looks, and a restore, finds the one that was
 * there or the new one. The old file goes when nothing names it any more.
 */
const place = async (
  { models, recordingsFolder, write }: Store,
  takeId: string,
  unfinished: string,
  { mark, ...known }: StoredFile & { mark: string },
): Promise<void> => {
  let placed = unfinished;
  try {
    const old = await write(async (transaction) => {
      if ((await models.takes.count({ where: { id: takeId }, transaction })) === 0) throw new RequestError(404, NO_TAKE);
      const before = (await models.recordings.findByPk(takeId, { transaction }))?.get('file') as string | undefined;
      const plain = `${takeId}.wav`;
      const file = (await fileSize(join(recordingsFolder, plain))) === null ? plain : `${takeId}.${mark}.wav`;
      await rename(unfinished, join(recordingsFolder, file));
      placed = join(recordingsFolder, file);
      await models.recordings.upsert({ takeId, file, ...known }, { transaction });
      await models.takes.update({ hasRecording: true }, { where: { id: takeId }, transaction });
      return before;
    });
    if (old && join(recordingsFolder, old) !== placed) await rm(join(recordingsFolder, old), { force: true });
  } catch (error) {
    await rm(placed, { force: true });
    throw error;
  }
};

/** Removes what uploads that were broken off left behind. Only before any upload is taken. */
export const sweepRecordings = async ({ recordingsFolder }: Pick<Store, 'recordingsFolder'>): Promise<void> => {
  for (const name of await readdir(recordingsFolder))
    if (name.endsWith(UNFINISHED)) await rm(join(recordingsFolder, name), { force: true });
};

/** A take's recording as a file, and how it is on the disk; null where there is none. */
export const getRecording = async (
  { models, recordingsFolder }: Store,
  takeId: string,
): Promise<{ bytes: number; path: string; state: SoundState } | null> => {
  const row = (await models.recordings.findByPk(takeId))?.get({ plain: true });
  if (!row) return null;
  const path = join(recordingsFolder, row.file);
  return { bytes: row.bytes, path, state: await soundState(path, row) };
};

/** What is said of a file of sound that is not as it was stored. */
const SOUND_WORDS: Record<Exclude<SoundState, 'whole'>, RequestError> = {
  missing: new RequestError(
    404,
    'The file of this recording is not in its place any more. The figures are not touched by that.',
  ),
  damaged: new RequestError(
    422,
    'This recording was changed on the disk: it is cut short, or some of it is not as it was recorded. The figures are not touched by that.',
  ),
};

/** Throws a RequestError where a file of sound is not as it was stored; with `asIs` what is left of it is good enough. */
export const checkSound = (state: SoundState, asIs = false): void => {
  if (state === 'missing' || (state === 'damaged' && !asIs)) throw SOUND_WORDS[state];
};
