import { randomUUID } from 'node:crypto';
import { mkdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { now } from '@isochron/core/schema';
import { QueryTypes, type Sequelize } from 'sequelize';
import { overOwnConnection } from '../database/connection';
import type { Store } from '../database/open';
import { RESTORE_KEY } from '../own-keys';
import { forgetTail, moveAside, type RestoreTail, RestoreTailSchema } from './finish-restore';
import { DATABASE_NAME, type OnProgress, recordingName, SOUND_FILE } from './manifest';
import { unpackBackup } from './unpack';
import { vetBackup } from './vet-backup';

/** Every table, those that others refer to first. */
const TABLES = [
  'settings',
  'passages',
  'solutions',
  'practiceConfigs',
  'sessions',
  'takes',
  'repetitions',
  'recordings',
  'accompaniments',
  'analyses',
] as const;

const select = <Row extends object>(database: Sequelize, sql: string, replacements: unknown[] = []) =>
  database.query<Row>(sql, { replacements, type: QueryTypes.SELECT });

/** Replaces every row by those of another database, and notes what is then left to do: all in one transaction. */
const replaceRows = async (database: Sequelize, file: string, tail: RestoreTail): Promise<void> => {
  await database.query('ATTACH DATABASE ? AS restored', { replacements: [file] });
  await database.query('BEGIN IMMEDIATE');
  for (const table of [...TABLES].reverse()) await database.query(`DELETE FROM main.${table}`);
  for (const table of TABLES) {
    const sql = 'SELECT name FROM pragma_table_xinfo(?) WHERE hidden = 0';
    const names = (await select<{ name: string }>(database, sql, [table])).map(({ name }) => `"${name}"`).join();
    await database.query(`INSERT INTO main.${table} (${names}) SELECT ${names} FROM restored.${table}`);
  }
  await database.query('INSERT INTO main.settings (key, document) VALUES (?, ?)', {
    replacements: [RESTORE_KEY, JSON.stringify(tail)],
  });
  // Where it is not committed, all is as it was.
  await database.query('COMMIT');
};

/** What a restored backup came to. */
export interface Restored {
  takes: number;
  recordings: number;
  /** The folder, within the data folder, where everything is as it was before. */
  before: string;
}

/**
 * Puts a backup in the place of everything that is stored. Every file of it is checked first, and its database looked through in a
 * process of its own; until all is well nothing is changed. The change itself is one transaction, in which nobody else writes: who
 * wrote before it finds it in the folder of what was there before, who writes after it finds it in what was restored.
 * `onProgress` may throw to stop it. Throws a RequestError.
 */
export const restoreBackup = async (store: Store, zipPath: string, onProgress: OnProgress = () => {}): Promise<Restored> => {
  const { dataFolder, recordingsFolder } = store;
  const id = randomUUID();
  const mark = id.slice(0, 8);
  const folder = `restore-${id}`;
  const at = join(dataFolder, folder);
  const placed: string[] = [];
  let isLeft = false;
  try {
    const manifest = await unpackBackup(zipPath, at, onProgress);
    const inFolder = recordingName('');
    const files = manifest.files.flatMap(({ name }) => (name.startsWith(inFolder) ? [name.slice(inFolder.length)] : []));
    const renamed = await vetBackup({ folder: at, files, missing: manifest.missing, mark });
    await mkdir(join(at, 'before'));
    const tail = await store.alone(() =>
      overOwnConnection(join(dataFolder, DATABASE_NAME), async (database) => {
        // Not before nobody else writes: a file that no row names yet is one that tidying up would take away.
        for (const { from, to } of renamed) {
          await rename(join(at, 'recordings', from), join(recordingsFolder, to));
          placed.push(to);
        }
        await database.query('VACUUM INTO ?', { replacements: [join(at, 'before', DATABASE_NAME)] });
        const old = await select<{ file: string }>(
          database,
          'SELECT file FROM recordings UNION SELECT file FROM accompaniments',
        );
        const made = RestoreTailSchema.parse({
          folder,
          before: `before-restore-${now().toISOString().replaceAll(':', '-').slice(0, 19)}-${mark}`,
          files: old.map(({ file }) => file).filter((file) => SOUND_FILE.test(file)),
        });
        await replaceRows(database, join(at, DATABASE_NAME), made);
        placed.length = 0;
        // From here on it is restored. What cannot be kept aside now is kept where it is, and moved at the next start.
        isLeft = await moveAside(store, made).then(
          () => false,
          () => true,
        );
        return made;
      }),
    );
    if (!isLeft) await forgetTail(store);
    const { takes, recordings } = store.models;
    return { takes: await takes.count(), recordings: await recordings.count(), before: tail.before };
  } finally {
    // Where nothing was changed, nothing is left behind.
    for (const name of placed) await rm(join(recordingsFolder, name), { force: true });
    // What was broken off may still open its file meanwhile.
    if (!isLeft) await rm(at, { recursive: true, force: true, maxRetries: 5 });
  }
};
