import { mkdir, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { type Sequelize, Transaction } from 'sequelize';
import { fileSize } from '../file-size';
import { connect, connectToRead, isWritable } from './connection';
import { listCopies } from './copies';
import { dueMigrations, migrate } from './migrate';
import { defineModels, type Models } from './models';
import { allProblems, quickProblems } from './page-check';
import { watchWrites } from './seal';
import { cannotUpdate, DATABASE_FILES, damaged } from './store-error';
import { createUnreadable, type Unreadable } from './unreadable';
import { createWriter, type Writer } from './writer';

/** An open database and its folder of recordings. */
export interface Store extends Pick<Writer, 'write' | 'alone'> {
  database: Sequelize;
  models: Models;
  /** Reads what belongs together as it was at one moment, whatever is written meanwhile. */
  read<Result>(work: (transaction: Transaction) => Promise<Result>): Promise<Result>;
  dataFolder: string;
  recordingsFolder: string;
  /** Whether the folder cannot be written: what is there can be looked at. */
  isReadOnly: boolean;
  /** What was met that cannot be read. */
  unreadable: Unreadable;
  close(): Promise<void>;
}

/** A database up to this size is checked before anything is read from it: within a second. */
const CHECKED_AT_START_BYTES = 64_000_000;

/**
 * Throws where there is no database, or an empty one, beside what can only have come from one: without anything it is a first start, or
 * one that was broken off.
 */
const checkPresence = async (dataFolder: string, recordingsFolder: string, bytes: number | null): Promise<void> => {
  if (bytes) return;
  const log = (await fileSize(join(dataFolder, DATABASE_FILES[1]))) ?? 0;
  const hasData =
    (await readdir(recordingsFolder).catch(() => [])).length > 0 || log > 0 || (await listCopies(dataFolder)).length > 0;
  if (hasData) throw await damaged(dataFolder, bytes === null ? 'is missing' : 'is empty');
};

/**
 * Whether the pages of a database hang together. Where only indexes do not say what their tables say, they are made again from the
 * tables: nothing is lost by that, while what is counted from a wrong index would be wrong.
 */
const isSound = async (database: Sequelize, isReadOnly: boolean): Promise<boolean> => {
  if ((await quickProblems(database)).length > 0) return false;
  if ((await allProblems(database)).length === 0) return true;
  if (isReadOnly) return false;
  await database.query('REINDEX');
  return (await allProblems(database)).length === 0;
};

/** What SQLite says of a file that is no database, or no longer a whole one. */
const DAMAGE = /SQLITE_NOTADB|SQLITE_CORRUPT|malformed|not a database/;

/**
 * Opens (or makes) the database in a folder, in write-ahead mode with foreign keys on, and looks whether it is whole. Where migrations
 * are due on an existing database, it is copied first to `isochron.before-NAME.db`. A folder that cannot be written is opened for
 * reading. Throws StoreError, with a sentence that says what to do, for a database that is damaged, missing or of a later version.
 */
export const openStore = async (dataFolder: string): Promise<Store> => {
  const recordingsFolder = join(dataFolder, 'recordings');
  await mkdir(recordingsFolder, { recursive: true });
  const file = join(dataFolder, DATABASE_FILES[0]);
  const bytes = await fileSize(file);
  await checkPresence(dataFolder, recordingsFolder, bytes);
  const isReadOnly = !(await isWritable(dataFolder));
  // What a program that was killed left in the log is read too; it needs the files beside the database, which are there then.
  const isClosedCleanly = !(await fileSize(join(dataFolder, DATABASE_FILES[1])));
  const database = isReadOnly && isClosedCleanly ? connectToRead(file) : connect(file);
  try {
    if (!isReadOnly) await database.query('PRAGMA journal_mode = WAL');
    await database.query('PRAGMA foreign_keys = ON');
    if (bytes && bytes <= CHECKED_AT_START_BYTES && !(await isSound(database, isReadOnly)))
      throw await damaged(dataFolder, 'is damaged');
    if (!isReadOnly) await migrate(database, dataFolder, !bytes);
    else if ((await dueMigrations(database, dataFolder)).length > 0) throw cannotUpdate(dataFolder);
  } catch (error) {
    await database.close();
    if (DAMAGE.test(String(error))) throw await damaged(dataFolder, 'is damaged');
    throw error;
  }
  watchWrites(database);
  const { write, alone, settled } = createWriter(database);
  return {
    database,
    models: defineModels(database),
    dataFolder,
    recordingsFolder,
    isReadOnly,
    unreadable: createUnreadable(),
    alone,
    write,
    read: (work) => database.transaction({ type: Transaction.TYPES.DEFERRED }, work),
    async close() {
      await settled();
      await database.close();
    },
  };
};
