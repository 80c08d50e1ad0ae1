import { createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { resolve } from 'node:path';
import { finishRestore } from './backup/finish-restore';
import type { OnProgress } from './backup/manifest';
import { restoreBackup } from './backup/restore-backup';
import { writeBackup } from './backup/write-backup';
import { readConfig } from './config';
import { lockDataFolder } from './database/data-lock';
import { openStore, type Store } from './database/open';
import { recover } from './database/recover';
import { StoreError } from './database/store-error';
import { fileSize } from './file-size';
import { type ReportFormat, report } from './report';
import { RequestError } from './request-error';
import { storageErrorOf } from './storage-error';

/** What needs the database: of the data folder that ISOCHRON_DATA names. */
const USAGE = `isochron backup FILE.zip     writes everything that is stored into one file
isochron restore FILE.zip    puts such a file in the place of everything; stop Isochron first
isochron recover             puts the newest good copy in the place of a damaged database; stop Isochron first
isochron report ID --json|--csv
                             what is known of a take or of a passage

The data are those in the folder that ISOCHRON_DATA names (otherwise: data).`;

/** Something the user can put right, said in a sentence. */
class Wrong extends Error {}

/** Tells on the standard error how far it has come, where someone is looking. */
const progress = (what: string): OnProgress => {
  let told = -1;
  return (done, of) => {
    const percent = of === 0 ? 100 : Math.floor((100 * done) / of);
    if (!process.stderr.isTTY || percent === told) return;
    told = percent;
    process.stderr.write(`\r${what} ${percent} %${percent === 100 ? '\n' : ''}`);
  };
};

const isThere = async (path: string): Promise<boolean> => (await fileSize(path)) !== null;

/** Opens what is stored, for one look at it; where Isochron runs it has brought the tables up to date itself. */
const lookAt = async <Seen>(dataFolder: string, look: (store: Store) => Promise<Seen>): Promise<Seen> => {
  if (!(await isThere(resolve(dataFolder, 'isochron.db')))) throw new Wrong(`There is no practice in ${dataFolder} yet.`);
  const lock = await lockDataFolder(dataFolder).catch(() => null);
  try {
    const store = await openStore(dataFolder);
    try {
      return await look(store);
    } finally {
      await store.close();
    }
  } finally {
    await lock?.release();
  }
};

const backUp = async (file: string, dataFolder: string): Promise<string> => {
  if (await isThere(file)) throw new Wrong(`${file} is there already. Choose another name, so that no backup is overwritten.`);
  // Under another name until it is whole.
  const unfinished = `${file}.part`;
  try {
    const { missing, damaged } = await lookAt(dataFolder, () =>
      writeBackup(dataFolder, createWriteStream(unfinished), progress('Writing')),
    );
    await rename(unfinished, file);
    const remark = [
      missing.length ? ` ${missing.length} recordings were not in their place and are not in it.` : '',
      damaged.length ? ` ${damaged.length} recordings are not as they were recorded; they are in it as they are.` : '',
    ].join('');
    return `Everything in ${dataFolder} is in ${file}.${remark}`;
  } finally {
    await rm(unfinished, { force: true });
  }
};

const restore = async (file: string, dataFolder: string): Promise<string> => {
  if (!(await isThere(file))) throw new Wrong(`The file ${file} cannot be opened. Check its name and place.`);
  const lock = await lockDataFolder(dataFolder);
  try {
    const store = await openStore(dataFolder);
    try {
      await finishRestore(store);
      const { takes, recordings, before } = await restoreBackup(store, file, progress('Restoring'));
      return `${takes} takes and ${recordings} recordings are restored. What was there before is in ${resolve(dataFolder, before)}.`;
    } finally {
      await store.close();
    }
  } finally {
    await lock.release();
  }
};

const putBack = async (dataFolder: string): Promise<string> => {
  if (!(await isThere(dataFolder))) throw new Wrong(`There is no folder ${dataFolder}.`);
  const lock = await lockDataFolder(dataFolder);
  try {
    const recovered = await recover(dataFolder);
    if (!recovered)
      throw new Wrong(`There is no whole copy in ${dataFolder}. Restore a backup of your own. Nothing was changed.`);
    const { copy, aside } = recovered;
    return `${copy.name} is in the place of the database now. What was there is in ${resolve(dataFolder, aside)}.`;
  } finally {
    await lock.release();
  }
};

const FORMATS = new Map<string, ReportFormat>([
  ['--json', 'json'],
  ['--csv', 'csv'],
]);

type Command = (target: string, dataFolder: string, option: string) => Promise<string>;
const COMMANDS = new Map<string, Command>([
  ['backup', (target, folder) => backUp(resolve(target), folder)],
  ['restore', (target, folder) => restore(resolve(target), folder)],
  ['recover', (_target, folder) => putBack(folder)],
  [
    'report',
    (target, folder, option) => {
      const format = FORMATS.get(option);
      if (!format) throw new Wrong('Say --json or --csv after the take or the passage.');
      return lookAt(folder, (store) => report(store, target, format));
    },
  ],
]);

/** Commands that are of the data folder as a whole. */
const WITHOUT_TARGET = new Set(['recover']);

const [name = '', target = '', option = ''] = process.argv.slice(2);
const command = COMMANDS.get(name);
if (!command || (!target && !WITHOUT_TARGET.has(name))) {
  console.error(USAGE);
  process.exitCode = 2;
} else {
  try {
    process.stdout.write(`${(await command(target, readConfig(process.env).dataFolder, option)).trimEnd()}\n`);
  } catch (error) {
    const isSaid = error instanceof Wrong || error instanceof RequestError || error instanceof StoreError;
    const sentence = isSaid ? error.message : storageErrorOf(error)?.message;
    if (!sentence) throw error;
    console.error(`isochron: ${sentence}`);
    process.exitCode = 1;
  }
}
