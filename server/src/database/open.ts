import { constants } from 'node:fs';
import { copyFile, mkdir, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { Sequelize, Transaction } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { fileSize } from '../file-size';
import { firstTables } from './migrations/0001-first-tables';
import { engineTwo } from './migrations/0002-engine-two';
import { seams } from './migrations/0003-seams';
import { years } from './migrations/0004-years';
import { material } from './migrations/0005-material';
import { weeks } from './migrations/0006-weeks';
import { along } from './migrations/0007-along';
import { defineModels, type Models } from './models';
import { damaged, newestBackup, tooNew } from './store-trouble';
import { createUnreadable, type Unreadable } from './unreadable';

/** Every migration, in the order in which they run. */
const MIGRATIONS = [firstTables, engineTwo, seams, years, material, weeks, along];

/** An open database and its folder of recordings. */
export interface Store {
  database: Sequelize;
  models: Models;
  /** Does something that writes, all of it or nothing. One writer at a time: who comes meanwhile waits its turn. */
  write<Result>(work: (transaction: Transaction) => Promise<Result>): Promise<Result>;
  /** Does something while nobody writes, over whatever connection it makes for itself. */
  alone<Result>(work: () => Promise<Result>): Promise<Result>;
  /** Reads what belongs together as it was at one moment, whatever is written meanwhile. */
  read<Result>(work: (transaction: Transaction) => Promise<Result>): Promise<Result>;
  dataFolder: string;
  recordingsFolder: string;
  /** What was met that cannot be read. */
  unreadable: Unreadable;
  close(): Promise<void>;
}

/** Whether there is anything that a database could belong to: without it, an empty file is a first start that was broken off. */
const hasData = async (dataFolder: string, recordingsFolder: string): Promise<boolean> =>
  (await readdir(recordingsFolder)).length > 0 || (await newestBackup(dataFolder)) !== null;

/** Copies the database before it is changed. The first copy is kept: a later one might be of something half done. */
const backUp = async (database: Sequelize, file: string, copy: string): Promise<void> => {
  await database.query('PRAGMA wal_checkpoint(TRUNCATE)');
  await copyFile(file, copy, constants.COPYFILE_EXCL).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'EEXIST') throw error;
  });
};

/**
 * Brings the tables up to date: all due migrations or none, with the note that they ran, so that a start that is broken off
 * leaves the database as it was. Throws StoreTrouble for a database of a later version.
 */
const migrate = async (database: Sequelize, dataFolder: string, file: string, isNew: boolean): Promise<void> => {
  const storage = new SequelizeStorage({ sequelize: database });
  const umzug = new Umzug({
    migrations: MIGRATIONS,
    context: database.getQueryInterface(),
    storage,
    logger: undefined,
  });
  const known = new Set(MIGRATIONS.map(({ name }) => name));
  if ((await storage.executed()).some((name) => !known.has(name))) throw tooNew(dataFolder);
  const [due] = await umzug.pending();
  if (!due) return;
  if (!isNew) await backUp(database, file, join(dataFolder, `isochron.before-${due.name}.db`));
  await database.query('BEGIN IMMEDIATE');
  try {
    await umzug.up();
    await database.query('COMMIT');
  } catch (error) {
    await database.query('ROLLBACK').catch(() => {});
    throw error;
  }
};

/** What SQLite says of a file that is no database, or no longer a whole one. */
const DAMAGE = /SQLITE_NOTADB|SQLITE_CORRUPT|malformed|not a database/;

/**
 * Opens (or makes) the database in a folder, in write-ahead mode with foreign keys on. Where migrations are due on an
 * existing database, it is copied first to `isochron.before-NAME.db`. Throws StoreTrouble, with a sentence that says what to
 * do, for a database that is damaged or of a later version.
 */
export const openStore = async (dataFolder: string): Promise<Store> => {
  const recordingsFolder = join(dataFolder, 'recordings');
  await mkdir(recordingsFolder, { recursive: true });
  const file = join(dataFolder, 'isochron.db');
  const bytes = await fileSize(file);
  if (bytes === 0 && (await hasData(dataFolder, recordingsFolder))) throw await damaged(dataFolder, 'is empty');
  // One connection beside those that transactions make for themselves: a single player needs no more.
  const database = new Sequelize({ dialect: 'sqlite', storage: file, logging: false, pool: { max: 1, min: 1, idle: 1e9 } });
  try {
    await database.query('PRAGMA journal_mode = WAL');
    await database.query('PRAGMA foreign_keys = ON');
    await migrate(database, dataFolder, file, !bytes);
  } catch (error) {
    await database.close();
    if (DAMAGE.test(String(error))) throw await damaged(dataFolder, 'is damaged');
    throw error;
  }
  let lastWrite: Promise<unknown> = Promise.resolve();
  const alone = <Result>(work: () => Promise<Result>): Promise<Result> => {
    const turn = lastWrite.then(work);
    lastWrite = turn.catch(() => {});
    return turn;
  };
  return {
    database,
    models: defineModels(database),
    dataFolder,
    recordingsFolder,
    unreadable: createUnreadable(),
    alone,
    write: (work) => alone(() => database.transaction({ type: Transaction.TYPES.IMMEDIATE }, work)),
    read: (work) => database.transaction({ type: Transaction.TYPES.DEFERRED }, work),
    async close() {
      await lastWrite;
      await database.close();
    },
  };
};
