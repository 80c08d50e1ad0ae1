import { randomUUID } from 'node:crypto';
import { mkdir, rename, rm } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { QueryTypes, Sequelize } from 'sequelize';
import { openStore, type Store } from '../database/open';
import { StoreTrouble } from '../database/store-trouble';
import { Refusal } from '../refusal';
import { DATABASE_NAME, type OnProgress } from './manifest';
import { unpackBackup } from './unpack';

/** Every table, those that others refer to first. */
const TABLES = [
  'settings',
  'passages',
  'solutions',
  'courses',
  'sittings',
  'takes',
  'repetitions',
  'recordings',
  'accompaniments',
  'analyses',
] as const;

const select = <Row extends object>(database: Sequelize, sql: string, replacements: unknown[] = []) =>
  database.query<Row>(sql, { replacements, type: QueryTypes.SELECT });

/** Opens an unpacked database, brought up to date; throws a Refusal where it cannot be used. */
const openUnpacked = async (folder: string): Promise<Store> => {
  const store = await openStore(folder).catch((error: unknown) => {
    if (!(error instanceof StoreTrouble)) throw error;
    throw new Refusal(
      400,
      error.kind === 'newer'
        ? 'This backup was made by a newer version of Isochron. Use that version to restore it. Nothing was changed.'
        : 'The database in this backup is damaged. Nothing was changed. Take another copy of it.',
    );
  });
  const [check] = await select<{ integrity_check: string }>(store.database, 'PRAGMA integrity_check');
  if (check?.integrity_check === 'ok') return store;
  await store.close();
  throw new Refusal(400, 'The database in this backup is damaged. Nothing was changed. Take another copy of it.');
};

/** The tables whose rows name a file, and the column that names the row. */
const WITH_FILES = [
  { table: 'recordings', key: 'takeId' },
  { table: 'accompaniments', key: 'id' },
] as const;

/**
 * Puts the unpacked recordings beside those that are there, under names that none of them has, and notes these names in the unpacked
 * database; the rows of those that are missing go. Gives back the names.
 */
const placeRecordings = async (unpacked: Store, missing: readonly string[], recordingsFolder: string): Promise<string[]> => {
  const { database } = unpacked;
  const mark = randomUUID().slice(0, 8);
  const placed: string[] = [];
  for (const { table, key } of WITH_FILES)
    for (const { id, file } of await select<{ id: string; file: string }>(
      database,
      `SELECT ${key} AS id, file FROM ${table}`,
    )) {
      if (missing.includes(file)) {
        await database.query(`DELETE FROM ${table} WHERE ${key} = ?`, { replacements: [id] });
        if (table === 'recordings')
          await database.query('UPDATE takes SET hasRecording = 0 WHERE id = ?', { replacements: [id] });
        continue;
      }
      const name = `${id}.${mark}${extname(file)}`;
      await rename(join(unpacked.recordingsFolder, file), join(recordingsFolder, name));
      placed.push(name);
      await database.query(`UPDATE ${table} SET file = ? WHERE ${key} = ?`, { replacements: [name, id] });
    }
  return placed;
};

/** Replaces every row of a store by those of another database, in one transaction: over a connection of its own, which knows both. */
const replaceRows = (store: Store, file: string): Promise<void> =>
  store.alone(async () => {
    const database = new Sequelize({ dialect: 'sqlite', storage: join(store.dataFolder, DATABASE_NAME), logging: false });
    try {
      await database.query('ATTACH DATABASE ? AS restored', { replacements: [file] });
      await database.query('BEGIN IMMEDIATE');
      for (const table of [...TABLES].reverse()) await database.query(`DELETE FROM main.${table}`);
      for (const table of TABLES) {
        const sql = 'SELECT name FROM pragma_table_xinfo(?) WHERE hidden = 0';
        const names = (await select<{ name: string }>(database, sql, [table])).map(({ name }) => `"${name}"`).join();
        await database.query(`INSERT INTO main.${table} (${names}) SELECT ${names} FROM restored.${table}`);
      }
      await database.query('COMMIT');
    } finally {
      // Closed before it was committed, all is as it was.
      await database.close();
    }
  });

/** What a restored backup came to. */
export interface Restored {
  takes: number;
  recordings: number;
  /** The folder, within the data folder, where everything is as it was before. */
  before: string;
}

/**
 * Puts a backup in the place of everything that is stored. Every file of it is checked first; until all is well nothing is changed,
 * and the change itself is one transaction. What was there before is kept in a folder of its own. `onProgress` may throw to stop it.
 */
export const restoreBackup = async (store: Store, zipPath: string, onProgress: OnProgress = () => {}): Promise<Restored> => {
  const { dataFolder, recordingsFolder, database } = store;
  const folder = join(dataFolder, `restore-${randomUUID()}`);
  const before = `before-restore-${new Date().toISOString().replaceAll(':', '-').slice(0, 19)}`;
  let placed: string[] = [];
  try {
    const { missing } = await unpackBackup(zipPath, folder, onProgress);
    const unpacked = await openUnpacked(folder);
    try {
      placed = await placeRecordings(unpacked, missing, recordingsFolder);
      await unpacked.database.query('PRAGMA wal_checkpoint(TRUNCATE)');
    } finally {
      await unpacked.close();
    }
    await mkdir(join(dataFolder, before, 'recordings'), { recursive: true });
    await database.query('VACUUM INTO ?', { replacements: [join(dataFolder, before, DATABASE_NAME)] });
    const old = await select<{ file: string }>(
      database,
      WITH_FILES.map(({ table }) => `SELECT file FROM ${table}`).join(' UNION '),
    );
    await replaceRows(store, join(folder, DATABASE_NAME));
    placed = [];
    for (const { file } of old)
      await rename(join(recordingsFolder, file), join(dataFolder, before, 'recordings', file)).catch(() => {
        // It was missing before; nothing refers to it any more.
      });
    const { takes, recordings } = store.models;
    return { takes: await takes.count(), recordings: await recordings.count(), before };
  } finally {
    // Where nothing was changed, nothing is left behind.
    for (const name of placed) await rm(join(recordingsFolder, name), { force: true });
    await rm(folder, { recursive: true, force: true });
  }
};
