import { join } from 'node:path';
import { DAY_MS, type Integrity, IntegritySchema, now, nowMs, type Tidied } from '@isochron/core/schema';
import type { Logger } from 'pino';
import type { Sequelize } from 'sequelize';
import { overOwnConnection } from '../database/connection';
import { hasCopyOfToday, listCopies, makeCopyOfToday } from '../database/copies';
import type { Store } from '../database/open';
import { allProblems, quickProblems } from '../database/page-check';
import { adviceFor, DATABASE_FILES } from '../database/store-error';
import { fileSize } from '../file-size';
import { CHECK_KEY } from '../own-keys';
import { checkRows, hideDamaged, type RowCheck } from './check-rows';
import { checkSounds, type SoundCheck, soundBytes, tidySounds } from './sound-files';

/** Looks whether what is stored is as it was stored, and keeps copies of the database. */
export interface IntegrityDesk {
  state(): Promise<Integrity>;
  /** Before anything is read, and after other rows were put in place: compares rows with their checksums, where they are not too many. */
  lookAtStart(): Promise<void>;
  /** Makes today's copy, and a full check where the last one is a week ago. Does not wait for the check. */
  daily(): Promise<void>;
  /** Begins a full check, where none is under way; gently where nobody waits for it. */
  start(options?: { gently?: boolean }): void;
  /** Stops the check that is under way. */
  cancel(): Promise<void>;
  tidy(): Promise<Tidied>;
}

const FULL_EVERY_MS = 7 * DAY_MS;
/** A database up to this size has its rows compared at every start: a second or so. */
const ROWS_AT_START_BYTES = 64_000_000;

const counted = (number: number, one: string, many: string): string => (number === 1 ? one : many.replace('#', String(number)));

const soundWords = ({ missing, damaged, unclaimed }: SoundCheck): string[] => [
  ...(damaged.length > 0
    ? [
        counted(
          damaged.length,
          'One recording is not as it was recorded: the disk has changed or cut it. Its take says so; the figures are not touched.',
          '# recordings are not as they were recorded: the disk has changed or cut them. Their takes say so; the figures are not touched.',
        ),
      ]
    : []),
  ...(missing.length > 0
    ? [
        counted(
          missing.length,
          'The file of one recording is not in its place. Put it back into the folder “recordings”, or have it forgotten below.',
          'The files of # recordings are not in their place. Put them back into the folder “recordings”, or have them forgotten below.',
        ),
      ]
    : []),
  ...(unclaimed.length > 0
    ? [
        counted(
          unclaimed.length,
          'One file in the folder “recordings” belongs to no take.',
          '# files in the folder “recordings” belong to no take.',
        ),
      ]
    : []),
];

/** Makes the {@link IntegrityDesk} of a store. */
export const createIntegrityDesk = (store: Store, log: Logger): IntegrityDesk => {
  let running: Promise<void> | null = null;
  let stopper = new AbortController();
  let [done, of] = [0, 0];
  let pages: string[] = [];
  let rows: RowCheck | null = null;
  let sounds: SoundCheck | null = null;
  let copyTrouble = '';
  let message = '';

  const file = join(store.dataFolder, DATABASE_FILES[0]);
  /** Over a connection of its own: a look through all pages takes seconds, in which others want to be answered. */
  const lookThrough = (problems: (database: Sequelize) => Promise<string[]>): Promise<string[]> =>
    store.isReadOnly ? problems(store.database) : overOwnConnection(file, problems);

  const isWhole = () => pages.length === 0 && (rows?.damaged.length ?? 0) === 0;

  const lastCheck = async (): Promise<string | null> => {
    const document = (await store.models.settings.findByPk(CHECK_KEY))?.get('document');
    return IntegritySchema.shape.checkedAt.safeParse((document as { at?: unknown } | undefined)?.at).data ?? null;
  };

  const sentences = async (): Promise<string[]> => {
    if (isWhole()) return sounds ? soundWords(sounds) : [];
    const [newest] = await listCopies(store.dataFolder);
    const what =
      pages.length > 0
        ? 'The database is damaged: some of it is not as it was written.'
        : counted(
            rows?.damaged.length ?? 0,
            'One entry of the database is not as it was written: the disk has changed it. It is left out of every figure.',
            '# entries of the database are not as they were written: the disk has changed them. They are left out of every figure.',
          );
    return [`${what} ${adviceFor(newest)}`, ...(sounds ? soundWords(sounds) : [])];
  };

  const compareRows = async (onRows?: () => void, gently = false): Promise<void> => {
    rows = await checkRows(store, { onRows, gently });
    hideDamaged(store, rows);
  };

  const full = async (gently: boolean): Promise<void> => {
    const { signal } = stopper;
    const databaseBytes = (await fileSize(file)) ?? 0;
    const bytesOfSound = await soundBytes(store);
    // Half of the database is its pages, half its rows, told by their number.
    of = databaseBytes + bytesOfSound;
    pages = await lookThrough(allProblems);
    signal.throwIfAborted();
    done = databaseBytes / 2;
    await compareRows(() => signal.throwIfAborted(), gently);
    done = databaseBytes;
    const onBytes = (bytes: number) => {
      done += bytes;
    };
    sounds = await checkSounds(store, signal, { onBytes, gently });
    if (!store.isReadOnly && isWhole())
      await store.write((transaction) =>
        store.models.settings.upsert({ key: CHECK_KEY, document: { at: now().toISOString() } }, { transaction }),
      );
  };

  const start = ({ gently = false } = {}): void => {
    if (running) return;
    stopper = new AbortController();
    [done, of, message] = [0, 0, ''];
    running = full(gently)
      .catch((error: unknown) => {
        if (stopper.signal.aborted) return;
        log.error({ err: error }, 'the data could not be checked');
        message = 'The data could not be checked to the end. It will be tried again tomorrow.';
      })
      .finally(() => {
        running = null;
      });
  };

  return {
    start,
    async state() {
      return {
        running: running !== null,
        done: Math.round(done),
        of: Math.round(of),
        checkedAt: await lastCheck(),
        sentences: [...(await sentences()), ...[copyTrouble, message].filter(Boolean)],
        copies: (await listCopies(store.dataFolder)).map(({ name, bytes, madeAt }) => ({
          name,
          bytes,
          madeAt: madeAt.toISOString(),
        })),
        unclaimed: sounds?.unclaimed.length ?? 0,
        missing: sounds?.missing.filter(({ table }) => table === 'recordings').length ?? 0,
      };
    },
    async lookAtStart() {
      [pages, sounds] = [[], null];
      const bytes = (await fileSize(file)) ?? 0;
      if (bytes <= ROWS_AT_START_BYTES) await compareRows();
    },
    async daily() {
      if (store.isReadOnly) return;
      const checkedAt = await lastCheck();
      if (!checkedAt || nowMs() - Date.parse(checkedAt) > FULL_EVERY_MS) start({ gently: true });
      if (await hasCopyOfToday(store.dataFolder)) return;
      // Too large to be looked at before the start: the pages first, since a copy of what is damaged is no copy.
      if (!rows) pages = await lookThrough(quickProblems);
      // What is damaged shall not push out the last copy that is good.
      if (isWhole()) copyTrouble = await makeCopyOfToday(store.dataFolder);
    },
    async cancel() {
      stopper.abort();
      await running;
    },
    async tidy() {
      const tidied = await tidySounds(store);
      if (sounds) sounds = { ...sounds, unclaimed: [], missing: sounds.missing.filter(({ table }) => table !== 'recordings') };
      return tidied;
    },
  };
};
