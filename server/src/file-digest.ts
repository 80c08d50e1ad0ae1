import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';

/** The SHA-256 of a file in hexadecimal; null where it is not there. `signal` stops it. */
export const fileDigest = async (path: string, signal?: AbortSignal): Promise<string | null> => {
  const hash = createHash('sha256');
  try {
    await pipeline(createReadStream(path), hash, { signal });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
    throw error;
  }
  return hash.digest('hex');
};
