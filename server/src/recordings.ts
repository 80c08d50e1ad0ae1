import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { open, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { LARGEST_RECORDING_BYTES } from '@isochron/core';
import type { Store } from './database/open';
import { Refusal } from './refusal';

const UNFINISHED = '.part';
/** The shortest file that says what it is: RIFF, its size, WAVE. */
const HEAD_BYTES = 12;

/** Lets a WAV file's pieces pass, however small they come; refuses anything else as soon as that is known. */
const onlyWav = (count: (bytes: number) => void) =>
  async function* (source: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
    let head: Buffer | null = Buffer.alloc(0);
    let bytes = 0;
    for await (const chunk of source) {
      bytes += chunk.length;
      count(bytes);
      if (bytes > LARGEST_RECORDING_BYTES) throw new Refusal(413, 'The recording is longer than an hour and was not stored.');
      if (head === null) {
        yield chunk;
        continue;
      }
      head = Buffer.concat([head, chunk]);
      if (head.length < HEAD_BYTES) continue;
      if (head.toString('latin1', 0, 4) !== 'RIFF' || head.toString('latin1', 8, 12) !== 'WAVE')
        throw new Refusal(400, 'The recording is not a WAV file.');
      yield head;
      head = null;
    }
    if (bytes === 0) throw new Refusal(400, 'The recording is empty.');
    if (head !== null) throw new Refusal(400, 'The recording is not a WAV file.');
  };

/** Waits until a file is on the disk and not only on its way there. */
const synced = async (path: string): Promise<void> => {
  const handle = await open(path, 'r+');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
};

/**
 * Stores a take's recording from a stream: written under a name of its own, synced, its length verified, then renamed, so that a
 * recording is there whole or not at all, and two that come at once do not meet. `announcedBytes` is what the sender said.
 */
export const putRecording = async (
  { models, recordingsFolder, write }: Store,
  takeId: string,
  source: Readable,
  announcedBytes: number | null = null,
): Promise<void> => {
  const file = `${takeId}.wav`;
  const unfinished = join(recordingsFolder, `${file}.${randomUUID()}${UNFINISHED}`);
  let received = 0;
  try {
    const count = (bytes: number) => {
      received = bytes;
    };
    await pipeline(source, onlyWav(count), createWriteStream(unfinished, { flags: 'wx' }));
    await synced(unfinished);
    const { size } = await stat(unfinished);
    if (size !== received || (announcedBytes !== null && size !== announcedBytes))
      throw new Refusal(
        507,
        'The recording did not reach the disk whole. Free some space; it is kept in the browser until then.',
      );
    await rename(unfinished, join(recordingsFolder, file));
  } catch (error) {
    await rm(unfinished, { force: true });
    throw error;
  }
  await write((transaction) => models.recordings.upsert({ takeId, file, bytes: received }, { transaction }));
};

/** Removes what uploads that were broken off left behind. Only before any upload is taken. */
export const sweepRecordings = async ({ recordingsFolder }: Pick<Store, 'recordingsFolder'>): Promise<void> => {
  for (const name of await readdir(recordingsFolder))
    if (name.endsWith(UNFINISHED)) await rm(join(recordingsFolder, name), { force: true });
};

/** A take's recording as a file, or null where there is none. */
export const getRecording = async (
  { models, recordingsFolder }: Store,
  takeId: string,
): Promise<{ bytes: number; path: string } | null> => {
  const row = (await models.recordings.findByPk(takeId))?.get({ plain: true });
  return row ? { bytes: row.bytes, path: join(recordingsFolder, row.file) } : null;
};
