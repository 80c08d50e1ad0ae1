import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { Sequelize } from 'sequelize';
import { StoreTrouble } from './store-trouble';

/** A data folder that is this program's until it is released, or the program ends, however it ends. */
export interface DataLock {
  release(): Promise<void>;
}

const isBusy = (error: unknown) => (error as { parent?: { code?: string } }).parent?.code === 'SQLITE_BUSY';

/**
 * Takes a data folder for this program: a small database of its own, held in a transaction. The system lets go of it with the
 * program, so that a kill leaves nothing to clear away. Throws StoreTrouble where another program has the folder.
 */
export const lockDataFolder = async (dataFolder: string): Promise<DataLock> => {
  await mkdir(dataFolder, { recursive: true });
  const database = new Sequelize({
    dialect: 'sqlite',
    storage: join(dataFolder, 'isochron.lock'),
    logging: false,
    pool: { max: 1, min: 1, idle: 1e9 },
    retry: { max: 0 },
  });
  try {
    await database.query('PRAGMA busy_timeout = 0');
    await database.query('BEGIN EXCLUSIVE');
  } catch (error) {
    await database.close();
    if (!isBusy(error)) throw error;
    throw new StoreTrouble(
      'in use',
      `Another Isochron is at work in ${dataFolder}. Use that one, or stop it first, or choose another folder with ISOCHRON_DATA.`,
    );
  }
  return { release: () => database.close() };
};
