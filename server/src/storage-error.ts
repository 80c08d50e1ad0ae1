import { rm, statfs, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Store } from './database/open';
import { PROBE_KEY } from './own-keys';

/** Why the disk did not take something, as an HTTP status and a sentence for the player. */
export interface StorageError {
  status: number;
  message: string;
}

const KEPT = 'What you play is kept in the browser until then.';
const FULL: StorageError = {
  status: 507,
  message: `The disk does not take what Isochron writes: it is full, a limit is reached, or it is failing. Free some space where Isochron keeps its data. ${KEPT}`,
};
const CLOSED: StorageError = {
  status: 507,
  message: `The folder where Isochron keeps its data cannot be written. Give Isochron the right to write there, or start it with another folder. ${KEPT}`,
};
const TOO_MANY: StorageError = {
  status: 503,
  message: `This machine has too many files open. Close other programs, or start Isochron again. ${KEPT}`,
};
const DAMAGED: StorageError = {
  status: 500,
  message: 'The database is damaged. Stop Isochron and start it again: it then says what to do.',
};

const HELD: StorageError = {
  status: 503,
  message: `Another program holds Isochron’s database, perhaps one that shows databases. Close it there. ${KEPT}`,
};

/** What the codes of the file system and of SQLite mean. */
const TROUBLES: Record<string, StorageError> = {
  ENOSPC: FULL,
  EDQUOT: FULL,
  EFBIG: FULL,
  SQLITE_FULL: FULL,
  EROFS: CLOSED,
  EACCES: CLOSED,
  EPERM: CLOSED,
  SQLITE_READONLY: CLOSED,
  SQLITE_CANTOPEN: CLOSED,
  SQLITE_PERM: CLOSED,
  EIO: FULL,
  SQLITE_IOERR: FULL,
  EMFILE: TOO_MANY,
  ENFILE: TOO_MANY,
  SQLITE_CORRUPT: DAMAGED,
  SQLITE_NOTADB: DAMAGED,
  SQLITE_BUSY: HELD,
  SQLITE_LOCKED: HELD,
};

/** The code of an error of the file system, or of the database driver that Sequelize wrapped. */
const codeOf = (error: unknown): string => {
  const { code, parent } = error as { code?: unknown; parent?: { code?: unknown } };
  const found = parent?.code ?? code;
  return typeof found === 'string' ? found : '';
};

/** What an error says of the disk, or null where it says nothing of it. */
export const storageErrorOf = (error: unknown): StorageError | null =>
  typeof error === 'object' && error !== null ? (TROUBLES[codeOf(error)] ?? null) : null;

/** What a long take needs; with less, the player is told before beginning. */
const MIN_FREE_BYTES = 200_000_000;
/** More than a file system keeps in its own tables. */
const PROBE_BYTES = 16_384;

/**
 * Whether a take could be stored now: empty, or a sentence. Writes a small file and a row, and removes the file; nothing else tells a
 * quota, a limit or a folder that has become read-only.
 */
export const storageProbe = async ({ dataFolder, models, write, isReadOnly }: Store): Promise<string> => {
  if (isReadOnly) return CLOSED.message;
  const probe = join(dataFolder, `.isochron-probe-${process.pid}`);
  try {
    await writeFile(probe, Buffer.alloc(PROBE_BYTES, 1));
    await rm(probe, { force: true });
    await write((transaction) => models.settings.upsert({ key: PROBE_KEY, document: {} }, { transaction }));
    const { bavail, bsize } = await statfs(dataFolder);
    const free = Number(bavail) * Number(bsize);
    return free < MIN_FREE_BYTES
      ? `Only ${Math.floor(free / 1e6)} MB are left where Isochron keeps its data: not enough for a long take. Free some space on that disk.`
      : '';
  } catch (error) {
    await rm(probe, { force: true }).catch(() => {});
    const trouble = storageErrorOf(error);
    if (!trouble) throw error;
    return trouble.message;
  }
};
