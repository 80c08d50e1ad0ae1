import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { type KeptTake, type UnsentTake, UnsentTakeSchema } from './unsent-take';

/** One second of a recording. */
export interface Chunk {
  takeId: string;
  number: number;
  sampleRateHz: number;
  samples: Int16Array;
}

interface SafeSchema extends DBSchema {
  chunks: { key: [string, number]; value: Chunk };
  takes: { key: string; value: KeptTake };
}

let opened: Promise<IDBPDatabase<SafeSchema>> | null = null;
/** A first opening that failed is tried again the next time. */
const forgetOpening = (error: unknown): never => {
  opened = null;
  throw error;
};

const safe = () => {
  opened ??= openDB<SafeSchema>('isochron-unsent', 1, {
    upgrade(database) {
      database.createObjectStore('chunks', { keyPath: ['takeId', 'number'] });
      database.createObjectStore('takes', { keyPath: 'take.id' });
    },
  }).catch(forgetOpening);
  return opened;
};

const chunksOf = (takeId: string) => IDBKeyRange.bound([takeId, 0], [takeId, Number.MAX_SAFE_INTEGER]);

/** Keeps one second of a take's recording in the browser. */
export const keepChunk = async (chunk: Chunk): Promise<void> => {
  await (await safe()).put('chunks', chunk);
};

/** Keeps a take's figures in the browser until the server has them. */
export const keepTake = async (unsent: KeptTake): Promise<void> => {
  await (await safe()).put('takes', unsent);
};

/** Every take that the server does not have yet. What cannot be read is left out, and left alone. */
export const unsentTakes = async (): Promise<UnsentTake[]> =>
  (await (await safe()).getAll('takes')).flatMap((stored) => {
    const parsed = UnsentTakeSchema.safeParse(stored);
    return parsed.success ? [parsed.data] : [];
  });

/** A take's recording as kept so far, in order, or null. */
export const keptRecording = async (takeId: string): Promise<{ samples: Float32Array; sampleRateHz: number } | null> => {
  const chunks = await (await safe()).getAll('chunks', chunksOf(takeId));
  const first = chunks[0];
  if (!first) return null;
  const samples = new Float32Array(chunks.reduce((sum, chunk) => sum + chunk.samples.length, 0));
  let at = 0;
  for (const chunk of chunks) {
    for (let n = 0; n < chunk.samples.length; n += 1) samples[at + n] = (chunk.samples[n] as number) / 32_767;
    at += chunk.samples.length;
  }
  return { samples, sampleRateHz: first.sampleRateHz };
};

/** Forgets a take that the server has, or that the player throws away. */
export const forgetTake = async (takeId: string): Promise<void> => {
  const database = await safe();
  await database.delete('chunks', chunksOf(takeId));
  await database.delete('takes', takeId);
};
