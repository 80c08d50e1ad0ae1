import { copyFile, mkdir, rename } from 'node:fs/promises';
import { join } from 'node:path';
import { now } from '@isochron/core/schema';
import { fileSize } from '../file-size';
import { overOwnConnection } from './connection';
import { type Copy, listCopies, onDisk } from './copies';
import { quickProblems } from './page-check';
import { DATABASE_FILES } from './store-error';

/** What was put in the place of a damaged database, and where that is kept. */
export interface Recovered {
  copy: Copy;
  aside: string;
}

const isWhole = (path: string): Promise<boolean> =>
  overOwnConnection(path, quickProblems).then(
    (problems) => problems.length === 0,
    () => false,
  );

/**
 * Puts the newest copy that is whole in the place of the database. What was there is kept in a folder of its own, with the files beside
 * it. Null, and nothing done, where there is no such copy. Only while no server is at work in the folder.
 */
export const recover = async (dataFolder: string): Promise<Recovered | null> => {
  for (const copy of await listCopies(dataFolder)) {
    if (!(await isWhole(join(dataFolder, copy.name)))) continue;
    const file = join(dataFolder, DATABASE_FILES[0]);
    const fresh = `${file}.recovered`;
    await copyFile(join(dataFolder, copy.name), fresh);
    await onDisk(fresh);
    const aside = `damaged-${now().toISOString().replaceAll(':', '-').slice(0, 19)}`;
    await mkdir(join(dataFolder, aside), { recursive: true });
    for (const name of DATABASE_FILES)
      if ((await fileSize(join(dataFolder, name))) !== null)
        await rename(join(dataFolder, name), join(dataFolder, aside, name));
    await rename(fresh, file);
    return { copy, aside };
  }
  return null;
};
