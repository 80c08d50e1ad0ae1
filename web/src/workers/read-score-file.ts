import { AppError } from '@isochron/core/schema';
import type { ReadPassage } from '@isochron/core/score';
import { openScores } from './open-worker';

/** No score takes so long to be read; a file that was made to take for ever does. */
const LONGEST_MS = 60_000;
const TOO_LONG = 'This file takes longer to read than any score. Export the passage alone and try once more.';

/**
 * Reads a file of notation in a worker of its own, which is ended with it: however long a file would take, the page goes on. Throws with
 * a sentence where it cannot be read, takes too long, or the player stops it.
 *
 * @param partId what is taken of a file that holds several parts; the first where nothing is said
 */
export const readScoreFile = async (file: File, id: string, signal: AbortSignal, partId?: string): Promise<ReadPassage> => {
  const worker = openScores();
  let timer: ReturnType<typeof setTimeout> | undefined;
  const stopped = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new AppError(TOO_LONG)), LONGEST_MS);
    signal.addEventListener('abort', () => reject(new AppError('Stopped. Nothing was changed.')));
  });
  try {
    return await Promise.race([worker.ask.readFile(file, id, partId), worker.broken, stopped]);
  } finally {
    clearTimeout(timer);
    worker.end();
  }
};
