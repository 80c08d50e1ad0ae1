import { mkdir, readdir, rename, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { now, type Tidied } from '@isochron/core/schema';
import type { Store } from '../database/open';
import { fileDigest } from '../file-digest';
import { soundState } from '../sound-check';

/** A file of sound that a row names. */
interface NamedSound {
  /** What it belongs to: a take, or a recording to play along with. */
  table: 'recordings' | 'accompaniments';
  id: string;
  file: string;
  bytes: number;
  sha256: string;
}

/** How the files of sound and the rows that name them agree. */
export interface SoundCheck {
  missing: NamedSound[];
  damaged: NamedSound[];
  /** Files that no row names. */
  unclaimed: { file: string; bytes: number }[];
}

const named = async ({ models }: Store): Promise<NamedSound[]> => [
  ...(await models.recordings.findAll()).map((row): NamedSound => {
    const { takeId, file, bytes, sha256 } = row.get({ plain: true });
    return { table: 'recordings', id: takeId, file, bytes, sha256 };
  }),
  ...(await models.accompaniments.findAll({ attributes: ['id', 'file', 'bytes', 'sha256'] })).map((row): NamedSound => {
    const { id, file, bytes, sha256 } = row.get({ plain: true });
    return { table: 'accompaniments', id, file, bytes, sha256 };
  }),
];

/** Uploads that are under way. */
const UNFINISHED = /\.part$/;

/** The files that no row names, as things stand. */
const unclaimedBeside = async (store: Store, rows: readonly NamedSound[]): Promise<SoundCheck['unclaimed']> => {
  const claimed = new Set(rows.map(({ file }) => file));
  const found: SoundCheck['unclaimed'] = [];
  for (const file of await readdir(store.recordingsFolder)) {
    if (claimed.has(file) || UNFINISHED.test(file)) continue;
    const info = await stat(join(store.recordingsFolder, file)).catch(() => null);
    if (info?.isFile()) found.push({ file, bytes: info.size });
  }
  return found;
};

/** Gives a file of before its first checksum, as it is now. */
const noteDigest = async (store: Store, { table, id, file, bytes }: NamedSound, signal: AbortSignal): Promise<void> => {
  const path = join(store.recordingsFolder, file);
  const sha256 = await fileDigest(path, signal);
  if (!sha256 || store.isReadOnly) return;
  await store.write((transaction) =>
    table === 'recordings'
      ? store.models.recordings.update({ sha256 }, { where: { takeId: id, file, bytes }, transaction })
      : store.models.accompaniments.update({ sha256 }, { where: { id, file, bytes }, transaction }),
  );
};

/** How files of sound are read through. */
interface Reading {
  /** Told how many bytes were read. */
  onBytes?(bytes: number): void;
  /** Whether the disk and the processor are left alone half of the time: somebody may be practising. */
  gently?: boolean;
}

/** Reads every file of sound and compares it with what is known of it. `signal` stops it: it throws an AbortError then. */
export const checkSounds = async (
  store: Store,
  signal: AbortSignal,
  { onBytes = () => {}, gently = false }: Reading = {},
): Promise<SoundCheck> => {
  const rows = await named(store);
  const found: SoundCheck = { missing: [], damaged: [], unclaimed: await unclaimedBeside(store, rows) };
  for (const row of rows) {
    signal.throwIfAborted();
    const begunMs = performance.now();
    const state = await soundState(join(store.recordingsFolder, row.file), row, { anew: true, signal });
    if (state !== 'whole') found[state].push(row);
    else if (row.sha256 === '') await noteDigest(store, row, signal);
    onBytes(row.bytes);
    if (gently) await setTimeout(performance.now() - begunMs, undefined, { signal });
  }
  return found;
};

/** So many bytes all files of sound come to. */
export const soundBytes = async (store: Store): Promise<number> =>
  (await named(store)).reduce((sum, { bytes }) => sum + bytes, 0);

/**
 * Moves files that no row names into a folder of their own, and has takes forget recordings whose file is gone. Nothing is
 * removed from the disk. Looked at anew, row by row: what was found a week ago may be otherwise now.
 */
export const tidySounds = async (store: Store): Promise<Tidied> => {
  const { dataFolder, recordingsFolder, models } = store;
  const folder = `set-aside-${now().toISOString().replaceAll(':', '-').slice(0, 19)}`;
  return store.write(async (transaction) => {
    const rows = await named(store);
    const unclaimed = await unclaimedBeside(store, rows);
    if (unclaimed.length > 0) await mkdir(join(dataFolder, folder), { recursive: true });
    for (const { file } of unclaimed) await rename(join(recordingsFolder, file), join(dataFolder, folder, file));
    let forgotten = 0;
    for (const { table, id, file } of rows) {
      if (table !== 'recordings' || (await stat(join(recordingsFolder, file)).catch(() => null))) continue;
      await models.recordings.destroy({ where: { takeId: id }, transaction });
      await models.takes.update({ hasRecording: false }, { where: { id }, transaction });
      forgotten += 1;
    }
    return { files: unclaimed.length, folder: unclaimed.length > 0 ? folder : '', forgotten };
  });
};
