import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { connect, isWritable } from './connection';
import { StoreError } from './store-error';
import { isHeld } from './writer';

/** A data folder that is this program's until it is released, or the program ends, however it ends. */
export interface DataLock {
  release(): Promise<void>;
}

/**
 * Takes a data folder for this program: a small database of its own, held in a transaction. The system lets go of it with the
 * program, so that a kill leaves nothing to clear away. Throws StoreError where another program has the folder.
 */
export const lockDataFolder = async (dataFolder: string): Promise<DataLock> => {
  await mkdir(dataFolder, { recursive: true });
  // Where nobody can write, nobody need be kept from it.
  if (!(await isWritable(dataFolder))) return { release: async () => {} };
  const database = connect(join(dataFolder, 'isochron.lock'));
  try {
    await database.query('PRAGMA busy_timeout = 0');
    await database.query('BEGIN EXCLUSIVE');
  } catch (error) {
    await database.close();
    if (!isHeld(error)) throw error;
    throw new StoreError(
      'in use',
      `Another Isochron is at work in ${dataFolder}. Use that one, or stop it first, or choose another folder with ISOCHRON_DATA.`,
    );
  }
  return { release: () => database.close() };
};
