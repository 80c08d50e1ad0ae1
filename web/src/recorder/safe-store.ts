import { type Gap, withPresentNames } from '@isochron/core/schema';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { type KeptTake, type UnsentTake, UnsentTakeSchema } from './unsent-take';

/** One second of a recording; its number is where it stands. */
export interface Chunk {
  takeId: string;
  number: number;
  sampleRateHz: number;
  samples: Int16Array;
}

/** Sound that is missing from a take's recording, in seconds from its start. */
export interface KeptGap extends Gap {
  takeId: string;
}

interface SafeSchema extends DBSchema {
  chunks: { key: [string, number]; value: Chunk };
  takes: { key: string; value: KeptTake };
  gaps: { key: [string, number]; value: KeptGap };
}

/** Version 2 marks gaps. */
const VERSION = 2;

let opened: Promise<IDBPDatabase<SafeSchema>> | null = null;
/** A first opening that failed is tried again the next time; one that the browser closed is made anew. */
const forgetOpening = () => {
  opened = null;
};

const safe = () => {
  opened ??= openDB<SafeSchema>('isochron-unsent', VERSION, {
    upgrade(database, from) {
      if (from < 1) {
        database.createObjectStore('chunks', { keyPath: ['takeId', 'number'] });
        database.createObjectStore('takes', { keyPath: 'take.id' });
      }
      database.createObjectStore('gaps', { keyPath: ['takeId', 'fromS'] });
    },
    // A tab of a newer version wants in: it shall not wait for this one.
    blocking: (_from, _to, event) => {
      (event.target as IDBDatabase).close();
      forgetOpening();
    },
    terminated: forgetOpening,
  }).catch((error: unknown) => {
    forgetOpening();
    throw error;
  });
  return opened;
};

const partsOf = (takeId: string) => IDBKeyRange.bound([takeId, 0], [takeId, Number.MAX_SAFE_INTEGER]);

/** Keeps one second of a take's recording in the browser. */
export const keepChunk = async (chunk: Chunk): Promise<void> => {
  await (await safe()).put('chunks', chunk);
};

/** Keeps that sound is missing from a take's recording. */
export const keepGap = async (gap: KeptGap): Promise<void> => {
  await (await safe()).put('gaps', gap);
};

/** Keeps a take's figures in the browser until the server has them. */
export const keepTake = async (unsent: KeptTake): Promise<void> => {
  await (await safe()).put('takes', unsent);
};

/** Every take that the server does not have yet. What cannot be read is left out, and left alone. */
export const keptTakes = async (): Promise<UnsentTake[]> =>
  (await (await safe()).getAll('takes')).flatMap((stored) => {
    const parsed = UnsentTakeSchema.safeParse(withPresentNames(stored));
    return parsed.success ? [parsed.data] : [];
  });

/** The numbers of the seconds that are kept of a take's recording, in order. */
export const chunkNumbers = async (takeId: string): Promise<number[]> =>
  (await (await safe()).getAllKeys('chunks', partsOf(takeId))).map(([, number]) => number);

/** The seconds that are kept from one number up to, not including, another. */
export const chunksBetween = async (takeId: string, from: number, to: number): Promise<Chunk[]> =>
  (await safe()).getAll('chunks', IDBKeyRange.bound([takeId, from], [takeId, to], false, true));

/** The gaps that were marked in a take's recording. */
export const keptGaps = async (takeId: string): Promise<Gap[]> => (await safe()).getAll('gaps', partsOf(takeId));

/** Forgets a take that the server has, or that the player throws away. */
export const forgetKept = async (takeId: string): Promise<void> => {
  const transaction = (await safe()).transaction(['chunks', 'takes', 'gaps'], 'readwrite');
  await Promise.all([
    transaction.objectStore('chunks').delete(partsOf(takeId)),
    transaction.objectStore('gaps').delete(partsOf(takeId)),
    transaction.objectStore('takes').delete(takeId),
    transaction.done,
  ]);
};
