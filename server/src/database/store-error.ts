import { AppError } from '@isochron/core/schema';
import { type Copy, listCopies } from './copies';

/** The database cannot be used, with a sentence that says what to do. */
export class StoreError extends AppError {
  constructor(
    readonly kind: 'damaged' | 'newer' | 'in use' | 'closed',
    message: string,
  ) {
    super(message);
  }
}

/** The files that make up a database while it is in use: those beside it hold what was written last. */
export const DATABASE_FILES = ['isochron.db', 'isochron.db-wal', 'isochron.db-shm'] as const;

const BY_HAND = `move ${DATABASE_FILES.slice(0, 2).join(', ')} and ${DATABASE_FILES[2]} (as far as they are there) out of the folder and keep them`;

/** How to go back to a copy, step by step: a line each. */
export const adviceFor = (copy: Copy | undefined): string => {
  if (!copy)
    return `There is no copy of it.\nStop Isochron; ${BY_HAND}; put the database of your own backup in their place, or start Isochron again without one. The recordings stay where they are.`;
  const madeAt = copy.madeAt.toISOString().slice(0, 16).replace('T', ' ');
  return [
    `The last good copy is ${copy.name}, made ${madeAt} UTC.`,
    'To go back to it, stop Isochron and run: npm run -s isochron -- recover',
    `Or by hand: stop Isochron; ${BY_HAND}; copy ${copy.name} to isochron.db; start Isochron again.`,
    'What was stored after that copy is not in it. The recordings stay where they are.',
  ].join('\n');
};

/** What a database that cannot be read is answered with. */
export const damaged = async (dataFolder: string, what: string): Promise<StoreError> => {
  const [newest] = await listCopies(dataFolder);
  return new StoreError('damaged', `The database in ${dataFolder} ${what}. ${adviceFor(newest)}`);
};

/** What a database of a later version is answered with. */
export const tooNew = (dataFolder: string): StoreError =>
  new StoreError(
    'newer',
    `The database in ${dataFolder} was written by a newer version of Isochron. Start that version, or choose another folder with ISOCHRON_DATA.`,
  );

/** What an earlier version's database in a folder that cannot be written is answered with. */
export const cannotUpdate = (dataFolder: string): StoreError =>
  new StoreError(
    'closed',
    `The database in ${dataFolder} is of an earlier version, and the folder cannot be written. Give Isochron the right to write there, or copy the folder and choose the copy with ISOCHRON_DATA.`,
  );
