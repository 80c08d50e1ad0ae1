import { randomUUID } from 'node:crypto';
import { type FileHandle, open, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { now } from '@isochron/core/schema';
import { QueryTypes } from 'sequelize';
import { ZipFile } from 'yazl';
import { countingStream } from '../counting-stream';
import { overOwnConnection } from '../database/connection';
import { DATABASE_NAME, MANIFEST_NAME, type Manifest, type OnProgress, recordingName } from './manifest';

/** A file of sound as the database knows it. */
interface KnownFile {
  file: string;
  bytes: number;
  sha256: string;
}

/**
 * A copy of the database as it is at one moment, made beside it over a connection of its own: writers go on meanwhile. Gives back the
 * files of sound that it names: read from the copy, so that both are of the same moment.
 */
const copyDatabase = async (dataFolder: string, copy: string): Promise<KnownFile[]> => {
  await overOwnConnection(join(dataFolder, DATABASE_NAME), (database) =>
    database.query('VACUUM INTO ?', { replacements: [copy] }),
  );
  return overOwnConnection(copy, (database) =>
    database.query<KnownFile>(
      'SELECT file, bytes, sha256 FROM recordings UNION SELECT file, bytes, sha256 FROM accompaniments ORDER BY file',
      { type: QueryTypes.SELECT },
    ),
  );
};

/** A file to be opened; null where it is not there, or any more. */
const opened = (path: string): Promise<FileHandle | null> =>
  open(path, 'r').catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return null;
    throw error;
  });

/** What a backup had to do without. */
export interface Backed {
  /** Recordings that were not in their place, and that were not as they had been stored. */
  missing: string[];
  damaged: string[];
}

/**
 * Writes everything of a data folder as one ZIP file: the database as SQLite, recordings as WAV, and a manifest with the length and
 * checksum of each, last. The server may go on meanwhile. What is damaged goes in as it is, and is named.
 */
export const writeBackup = async (dataFolder: string, out: Writable, onProgress: OnProgress = () => {}): Promise<Backed> => {
  const copy = join(dataFolder, `backup-${randomUUID()}.db`);
  const missing: string[] = [];
  const damaged: string[] = [];
  try {
    const files = await copyDatabase(dataFolder, copy);
    const copyBytes = (await stat(copy)).size;
    const ofBytes = files.reduce((sum, { bytes }) => sum + bytes, copyBytes);
    let doneBytes = 0;
    const zip = new ZipFile();
    const written = pipeline(zip.outputStream, out);
    const listed: Manifest['files'] = [];
    const add = async (name: string, handle: FileHandle): Promise<Manifest['files'][number]> => {
      const { stream, result } = countingStream((bytes) => {
        doneBytes += bytes;
        onProgress(doneBytes, ofBytes);
      });
      // One file after the other: hundreds of open files would be too many.
      zip.addReadStreamLazy(name, { compress: name === DATABASE_NAME }, (take) => take(null, stream));
      await pipeline(handle.createReadStream(), stream);
      const entry = { name, ...result() };
      listed.push(entry);
      return entry;
    };
    const write = async () => {
      await add(DATABASE_NAME, await open(copy, 'r'));
      for (const { file, bytes, sha256 } of files) {
        const handle = await opened(join(dataFolder, 'recordings', file));
        if (!handle) {
          missing.push(file);
          continue;
        }
        const is = await add(recordingName(file), handle);
        if (is.bytes !== bytes || (sha256 !== '' && is.sha256 !== sha256)) damaged.push(file);
      }
      const manifest: Manifest = { isochronBackup: 1, madeAt: now().toISOString(), files: listed, missing, damaged };
      zip.addBuffer(Buffer.from(JSON.stringify(manifest, null, 2)), MANIFEST_NAME);
      zip.end();
    };
    // Whoever reads may leave in the middle: then nothing more is read either.
    await Promise.all([write(), written]);
    return { missing, damaged };
  } catch (error) {
    out.destroy(error as Error);
    throw error;
  } finally {
    await rm(copy, { force: true });
  }
};
