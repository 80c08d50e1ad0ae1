import { mkdir, open, readdir, rename, rm, stat, statfs, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import { dayAt, dayIndex, localDay, now, weekdayOf } from '@isochron/core/schema';
import { fileSize } from '../file-size';
import { overOwnConnection } from './connection';
import { quickProblems } from './page-check';

/** The folder, within the data folder, in which copies of the database lie. */
const COPIES_FOLDER = 'copies';
const COPY = /^isochron-(\d{4}-\d\d-\d\d)\.db$/;
const UNFINISHED = /\.db\.part(-journal|-wal|-shm)?$/;

/** Of so many of the newest days, weeks and months that have one, the newest copy of each is kept. */
const KEPT = { days: 2, weeks: 2, months: 2 };
/** A copy is made where so much of the disk stays free after it. */
const MIN_LEFT_BYTES = 500_000_000;

/** A copy of the database that was whole when it was made. */
export interface Copy {
  /** Its path within the data folder. */
  name: string;
  bytes: number;
  madeAt: Date;
}

/** Which copies are kept, of those that were made on some days: the newest ones by days, by weeks and by months. */
export const daysToKeep = (days: readonly string[]): Set<string> => {
  const newestFirst = [...days].sort().reverse();
  const groups: Record<keyof typeof KEPT, (day: string) => string> = {
    days: (day) => day,
    weeks: (day) => dayAt(dayIndex(day) - weekdayOf(day)),
    months: (day) => day.slice(0, 7),
  };
  const kept = new Set<string>();
  for (const [name, groupOf] of Object.entries(groups)) {
    const seen = new Set<string>();
    for (const day of newestFirst) {
      const group = groupOf(day);
      if (seen.has(group)) continue;
      if (seen.size === KEPT[name as keyof typeof KEPT]) break;
      seen.add(group);
      kept.add(day);
    }
  }
  return kept;
};

const within = async (dataFolder: string, folder: string, pattern: RegExp): Promise<Copy[]> => {
  const names = (await readdir(join(dataFolder, folder)).catch(() => [])).filter((name) => pattern.test(name));
  return Promise.all(
    names.map(async (file) => {
      const { size, mtime } = await stat(join(dataFolder, folder, file));
      return { name: join(folder, file), bytes: size, madeAt: mtime };
    }),
  );
};

/** Every copy of the database that there is, those from before a change of version among them, the newest first. */
export const listCopies = async (dataFolder: string): Promise<Copy[]> =>
  [...(await within(dataFolder, COPIES_FOLDER, COPY)), ...(await within(dataFolder, '.', /^isochron\.before-.*\.db$/))].sort(
    (a, b) => b.madeAt.getTime() - a.madeAt.getTime(),
  );

/** Settles when a file is on the disk, and not only on its way there. */
export const onDisk = async (path: string): Promise<void> => {
  const handle = await open(path, 'r+');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
};

const copyOfToday = (dataFolder: string): string => join(dataFolder, COPIES_FOLDER, `isochron-${localDay(now())}.db`);

/** Whether the database was copied today. */
export const hasCopyOfToday = async (dataFolder: string): Promise<boolean> =>
  (await fileSize(copyOfToday(dataFolder))) !== null;

/**
 * Copies the database where today has no copy yet, and removes those that are not kept any more. A copy that is not whole is thrown away
 * and says so: the older ones stay. Gives back empty, or why there is none of today.
 */
export const makeCopyOfToday = async (dataFolder: string): Promise<string> => {
  const folder = join(dataFolder, COPIES_FOLDER);
  if (await hasCopyOfToday(dataFolder)) return '';
  const copy = copyOfToday(dataFolder);
  const file = join(dataFolder, 'isochron.db');
  const { bavail, bsize } = await statfs(dataFolder);
  if (Number(bavail) * Number(bsize) < ((await fileSize(file)) ?? 0) + MIN_LEFT_BYTES)
    return 'There is too little room on the disk for today’s copy of the database. Free some space.';
  await mkdir(folder, { recursive: true });
  for (const name of await readdir(folder)) if (UNFINISHED.test(name)) await rm(join(folder, name), { force: true });
  const unfinished = `${copy}.part`;
  try {
    await overOwnConnection(file, (database) => database.query('VACUUM INTO ?', { replacements: [unfinished] }));
    const problems = await overOwnConnection(unfinished, quickProblems);
    if (problems.length > 0) return 'Today’s copy of the database is not whole. The older copies are kept.';
    await onDisk(unfinished);
    await utimes(unfinished, now(), now());
    await rename(unfinished, copy);
  } finally {
    await rm(unfinished, { force: true });
  }
  const days = (await readdir(folder)).flatMap((name) => COPY.exec(name)?.[1] ?? []);
  const kept = daysToKeep(days);
  for (const day of days) if (!kept.has(day)) await rm(join(folder, `isochron-${day}.db`), { force: true });
  return '';
};
