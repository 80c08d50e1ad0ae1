import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import type { Store } from '../database/open';
import { RESTORE_KEY } from '../own-keys';
import { DATABASE_NAME, SOUND_FILE } from './manifest';

/** What is left to do of a restore once its rows are in their place: written with them, in the same transaction. */
export const RestoreTailSchema = z.object({
  /** Where the restore worked. */
  folder: z.string().regex(/^restore-[0-9a-f-]{36}$/),
  /** Where everything as it was before is kept. */
  before: z.string().regex(/^before-restore-[\w.-]+$/),
  /** The recordings of before. */
  files: z.array(z.string().regex(SOUND_FILE)),
});
export type RestoreTail = z.infer<typeof RestoreTailSchema>;

/** Moves a file, where it is still there: what was moved before the program ended stays moved. */
const moveIfThere = async (from: string, to: string): Promise<void> => {
  await rename(from, to).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'ENOENT') throw error;
  });
};

/** Keeps aside the files of what was there before a restore, as far as that is not done yet. */
export const moveAside = async (store: Store, { folder, before, files }: RestoreTail): Promise<void> => {
  const { dataFolder, recordingsFolder } = store;
  await mkdir(join(dataFolder, before, 'recordings'), { recursive: true });
  await moveIfThere(join(dataFolder, folder, 'before', DATABASE_NAME), join(dataFolder, before, DATABASE_NAME));
  for (const file of files) await moveIfThere(join(recordingsFolder, file), join(dataFolder, before, 'recordings', file));
};

/** Nothing of a restore is left to do. */
export const forgetTail = async ({ models, write }: Store): Promise<void> => {
  await write((transaction) => models.settings.destroy({ where: { key: RESTORE_KEY }, transaction }));
};

const WORK_FOLDER = /^restore-([0-9a-f]{8})[0-9a-f-]{28}$/;

/**
 * At a start: ends a restore that was killed after its rows were in their place, and takes back what one left that was killed before.
 * Afterwards everything is as it was, or as the backup has it.
 */
export const finishRestore = async (store: Store): Promise<void> => {
  const { models, dataFolder, recordingsFolder } = store;
  const row = await models.settings.findByPk(RESTORE_KEY);
  const tail = RestoreTailSchema.safeParse(row?.get('document')).data;
  if (tail) {
    await moveAside(store, tail);
    await forgetTail(store);
  }
  const marks = (await readdir(dataFolder)).flatMap((name) => WORK_FOLDER.exec(name)?.[1] ?? []);
  if (marks.length === 0) return;
  const rows = [...(await models.recordings.findAll()), ...(await models.accompaniments.findAll())];
  const claimed = new Set(rows.map((one) => one.get('file') as string));
  for (const file of await readdir(recordingsFolder))
    if (!claimed.has(file) && marks.some((mark) => file.includes(`.${mark}.`)))
      await rm(join(recordingsFolder, file), { force: true });
};
