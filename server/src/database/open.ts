import { copyFile, mkdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Sequelize, Transaction } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { firstTables } from './migrations/0001-first-tables';
import { engineTwo } from './migrations/0002-engine-two';
import { seams } from './migrations/0003-seams';
import { defineModels, type Models } from './models';

/** Every migration, in the order in which they run. */
const MIGRATIONS = [firstTables, engineTwo, seams];

/** An open database and its folder of recordings. */
export interface Store {
  database: Sequelize;
  models: Models;
  /** Does something that writes, all of it or nothing. One writer at a time: who comes meanwhile waits its turn. */
  write<Result>(work: (transaction: Transaction) => Promise<Result>): Promise<Result>;
  /** Reads what belongs together as it was at one moment, whatever is written meanwhile. */
  read<Result>(work: (transaction: Transaction) => Promise<Result>): Promise<Result>;
  recordingsFolder: string;
  close(): Promise<void>;
}

const exists = (file: string) =>
  stat(file).then(
    () => true,
    () => false,
  );

/**
 * Opens (or makes) the database in a folder, in write-ahead mode with foreign keys on. Where migrations are due on an
 * existing database, it is copied first to `isochron.before-NAME.db`.
 */
export const openStore = async (dataFolder: string): Promise<Store> => {
  const recordingsFolder = join(dataFolder, 'recordings');
  await mkdir(recordingsFolder, { recursive: true });
  const file = join(dataFolder, 'isochron.db');
  const isNew = !(await exists(file));
  // One connection: SQLite's pragmas hold for one, and a single player needs no more.
  const database = new Sequelize({ dialect: 'sqlite', storage: file, logging: false, pool: { max: 1, min: 1, idle: 1e9 } });
  await database.query('PRAGMA journal_mode = WAL');
  await database.query('PRAGMA foreign_keys = ON');
  const umzug = new Umzug({
    migrations: MIGRATIONS,
    context: database.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize: database }),
    logger: undefined,
  });
  const due = await umzug.pending();
  if (due[0] && !isNew) {
    await database.query('PRAGMA wal_checkpoint(TRUNCATE)');
    await copyFile(file, join(dataFolder, `isochron.before-${due[0].name}.db`));
  }
  // All of them or none, with the note that they ran: a start that is broken off leaves the database as it was.
  await database.query('BEGIN IMMEDIATE');
  try {
    await umzug.up();
    await database.query('COMMIT');
  } catch (error) {
    await database.query('ROLLBACK').catch(() => {});
    throw error;
  }
  let lastWrite: Promise<unknown> = Promise.resolve();
  return {
    database,
    models: defineModels(database),
    recordingsFolder,
    write(work) {
      const turn = lastWrite.then(() => database.transaction({ type: Transaction.TYPES.IMMEDIATE }, work));
      lastWrite = turn.catch(() => {});
      return turn;
    },
    read: (work) => database.transaction({ type: Transaction.TYPES.DEFERRED }, work),
    async close() {
      await lastWrite;
      await database.close();
    },
  };
};
