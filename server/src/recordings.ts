import { open, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { LARGEST_RECORDING_BYTES } from '@isochron/core';
import type { Store } from './database/open';
import { Refusal } from './refusal';

/**
 * Stores a take's recording from a stream: written under a temporary name, synced, then renamed, so that a recording is
 * there whole or not at all.
 */
export const putRecording = async ({ models, recordingsFolder }: Store, takeId: string, source: Readable): Promise<void> => {
  const file = `${takeId}.wav`;
  const temporary = join(recordingsFolder, `${file}.part`);
  const handle = await open(temporary, 'w');
  let bytes = 0;
  try {
    for await (const chunk of source as AsyncIterable<Buffer>) {
      if (bytes === 0 && chunk.subarray(0, 4).toString('latin1') !== 'RIFF') {
        throw new Refusal(400, 'The recording is not a WAV file.');
      }
      bytes += chunk.length;
      if (bytes > LARGEST_RECORDING_BYTES) throw new Refusal(413, 'The recording is longer than an hour and was not stored.');
      await handle.write(chunk);
    }
    if (bytes === 0) throw new Refusal(400, 'The recording is empty.');
    await handle.sync();
  } catch (error) {
    await handle.close();
    await rm(temporary, { force: true });
    throw error;
  }
  await handle.close();
  await rename(temporary, join(recordingsFolder, file));
  await models.recordings.upsert({ takeId, file, bytes });
};

/** A take's recording as a file, or null where there is none. */
export const getRecording = async (
  { models, recordingsFolder }: Store,
  takeId: string,
): Promise<{ bytes: number; path: string } | null> => {
  const row = (await models.recordings.findByPk(takeId))?.get({ plain: true });
  return row ? { bytes: row.bytes, path: join(recordingsFolder, row.file) } : null;
};
