import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';

/** The database cannot be used, with a sentence that says what to do. */
export class StoreTrouble extends Error {
  constructor(
    readonly kind: 'damaged' | 'newer' | 'in use',
    message: string,
  ) {
    super(message);
  }
}

/** The newest copy that was made before a migration, or null. */
export const newestBackup = async (dataFolder: string): Promise<string | null> => {
  const names = (await readdir(dataFolder)).filter((name) => /^isochron\.before-.*\.db$/.test(name));
  const dated = await Promise.all(names.map(async (name) => ({ name, at: (await stat(join(dataFolder, name))).mtimeMs })));
  return dated.sort((a, b) => b.at - a.at)[0]?.name ?? null;
};

const advice = (backup: string | null): string =>
  backup
    ? `Move isochron.db away and put ${backup} in its place; it is a copy from before the last change of version.`
    : 'Move isochron.db away, and put your own backup in its place or begin anew.';

/** What a database that cannot be read is answered with. */
export const damaged = async (dataFolder: string, what: string): Promise<StoreTrouble> =>
  new StoreTrouble('damaged', `The database in ${dataFolder} ${what}. ${advice(await newestBackup(dataFolder))}`);

/** What a database of a later version is answered with. */
export const tooNew = (dataFolder: string): StoreTrouble =>
  new StoreTrouble(
    'newer',
    `The database in ${dataFolder} was written by a newer version of Isochron. Start that version, or choose another folder with ISOCHRON_DATA.`,
  );
