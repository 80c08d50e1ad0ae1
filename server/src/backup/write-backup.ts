import { randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { QueryTypes, Sequelize } from 'sequelize';
import { ZipFile } from 'yazl';
import { counted } from '../counted';
import { fileSize } from '../file-size';
import { DATABASE_NAME, MANIFEST_NAME, type Manifest, type OnProgress, recordingName } from './manifest';

/** A copy of the database as it is at one moment, made beside it over a connection of its own: writers go on meanwhile. */
const copyDatabase = async (dataFolder: string, copy: string): Promise<string[]> => {
  const database = new Sequelize({ dialect: 'sqlite', storage: join(dataFolder, DATABASE_NAME), logging: false });
  try {
    await database.query('VACUUM INTO ?', { replacements: [copy] });
    const rows = await database.query<{ file: string }>(
      'SELECT file FROM recordings UNION SELECT file FROM accompaniments ORDER BY file',
      {
        type: QueryTypes.SELECT,
      },
    );
    return rows.map(({ file }) => file);
  } finally {
    await database.close();
  }
};

interface Entry {
  name: string;
  path: string;
  bytes: number;
}

/** The recordings that are there, and the names of those that are not. */
const found = async (dataFolder: string, files: readonly string[]): Promise<{ entries: Entry[]; missing: string[] }> => {
  const entries: Entry[] = [];
  const missing: string[] = [];
  for (const file of files) {
    const path = join(dataFolder, 'recordings', file);
    const bytes = await fileSize(path);
    if (bytes === null) missing.push(file);
    else entries.push({ name: recordingName(file), path, bytes });
  }
  return { entries, missing };
};

/**
 * Writes everything of a data folder as one ZIP file: the database as SQLite, recordings as WAV, and a manifest with the length and
 * checksum of each, last. The server may go on meanwhile. Gives back the names of recordings that were not there.
 */
export const writeBackup = async (dataFolder: string, out: Writable, onProgress: OnProgress = () => {}): Promise<string[]> => {
  const copy = join(dataFolder, `backup-${randomUUID()}.db`);
  try {
    const files = await copyDatabase(dataFolder, copy);
    const { entries, missing } = await found(dataFolder, files);
    const all: Entry[] = [{ name: DATABASE_NAME, path: copy, bytes: (await stat(copy)).size }, ...entries];
    const ofBytes = all.reduce((sum, { bytes }) => sum + bytes, 0);
    let doneBytes = 0;
    const zip = new ZipFile();
    const written = pipeline(zip.outputStream, out);
    const add = async ({ name, path }: Entry): Promise<Manifest['files'][number]> => {
      const { stream, result } = counted((bytes) => {
        doneBytes += bytes;
        onProgress(doneBytes, ofBytes);
      });
      // One file after the other: hundreds of open files would be too many.
      zip.addReadStreamLazy(name, { compress: name === DATABASE_NAME }, (take) => take(null, stream));
      await pipeline(createReadStream(path), stream);
      return { name, ...result() };
    };
    const write = async () => {
      const listed: Manifest['files'] = [];
      for (const entry of all) listed.push(await add(entry));
      const manifest: Manifest = { isochronBackup: 1, madeAt: new Date().toISOString(), files: listed, missing };
      zip.addBuffer(Buffer.from(JSON.stringify(manifest, null, 2)), MANIFEST_NAME);
      zip.end();
    };
    // Whoever reads may leave in the middle: then nothing more is read either.
    await Promise.all([write(), written]);
    return missing;
  } catch (error) {
    out.destroy(error as Error);
    throw error;
  } finally {
    await rm(copy, { force: true });
  }
};
