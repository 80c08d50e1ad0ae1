import { type Chunk, forgetKept, keepTake, keptTakes } from './safe-store';
import type { KeptTake, UnsentTake } from './unsent-take';
import { UnsentTakeSchema } from './unsent-take';

/**
 * What is not yet on the server: kept in the browser's storage, and where that refuses, held in this page's memory until it is sent.
 */

const heldTakes = new Map<string, UnsentTake>();
const heldChunks = new Map<string, Map<number, Chunk>>();

/** Keeps a take; where the browser's storage refuses, in memory. Tells which. */
export const keep = async (unsent: KeptTake): Promise<'kept' | 'held'> => {
  try {
    await keepTake(unsent);
    heldTakes.delete(unsent.take.id);
    return 'kept';
  } catch {
    heldTakes.set(unsent.take.id, UnsentTakeSchema.parse(unsent));
    return 'held';
  }
};

/** Holds the parts of a recording that the browser's storage did not take. */
export const holdChunks = (chunks: readonly Chunk[]): void => {
  for (const chunk of chunks) {
    const ofTake = heldChunks.get(chunk.takeId) ?? new Map<number, Chunk>();
    heldChunks.set(chunk.takeId, ofTake.set(chunk.number, chunk));
  }
};

/** The parts of a take's recording that are held in memory, by number. */
export const chunksHeld = (takeId: string): ReadonlyMap<number, Chunk> => heldChunks.get(takeId) ?? new Map();

/** Whether closing this page would lose something. */
export const holdsSomething = (): boolean => heldTakes.size > 0 || heldChunks.size > 0;

/** Every take that the server does not have yet, whichever way it is kept; `trouble` where the browser's storage cannot be read. */
export const unsentTakes = async (): Promise<{ takes: UnsentTake[]; trouble: boolean }> => {
  let trouble = false;
  const kept = await keptTakes().catch(() => {
    trouble = true;
    return [];
  });
  const takes = new Map([...kept.map((one): [string, UnsentTake] => [one.take.id, one]), ...heldTakes]);
  return { takes: [...takes.values()], trouble };
};

/** Forgets a take that the server has, or that the player throws away. */
export const forgetTake = async (takeId: string): Promise<void> => {
  const wasHeld = heldTakes.delete(takeId);
  heldChunks.delete(takeId);
  await forgetKept(takeId).catch((error: unknown) => {
    // A storage that took nothing has nothing to forget.
    if (!wasHeld) throw error;
  });
};
