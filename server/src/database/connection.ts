import { access, constants } from 'node:fs/promises';
import { pathToFileURL } from 'node:url';
import { Sequelize } from 'sequelize';
import sqlite3 from 'sqlite3';

/** One connection beside those that transactions make for themselves, and no tries but those that are asked for. */
const SINGLE = { dialect: 'sqlite', logging: false, pool: { max: 1, min: 1, idle: 1e9 }, retry: { max: 0 } } as const;

/**
 * A connection to a SQLite file. A query waits a second for another program's lock (the driver's default), and is not tried again by
 * itself: who asks decides how long the player waits.
 */
export const connect = (file: string): Sequelize => new Sequelize({ ...SINGLE, storage: file });

/** A connection to a database that nobody can write, as on a disk that is mounted for reading: it needs no file beside it. */
export const connectToRead = (file: string): Sequelize =>
  new Sequelize({
    ...SINGLE,
    storage: `${pathToFileURL(file).href}?immutable=1`,
    dialectOptions: { mode: sqlite3.OPEN_READONLY | sqlite3.OPEN_URI },
  });

/** Does something over a connection of its own, and closes it. */
export const overOwnConnection = async <Result>(
  file: string,
  work: (database: Sequelize) => Promise<Result>,
): Promise<Result> => {
  const database = connect(file);
  try {
    return await work(database);
  } finally {
    await database.close();
  }
};

/** Whether a folder can be written by this program. */
export const isWritable = (folder: string): Promise<boolean> =>
  access(folder, constants.W_OK).then(
    () => true,
    () => false,
  );
