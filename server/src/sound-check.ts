import { stat } from 'node:fs/promises';
import { fileDigest } from './file-digest';

/** How a file of sound is, beside what is known of it. */
export type SoundState = 'whole' | 'missing' | 'damaged';

/** What is known of a file of sound: its length, and its checksum; empty where it was stored before there were checksums. */
export interface KnownSound {
  bytes: number;
  sha256: string;
}

/** Files that were read through, as they were on the disk then. */
const looked = new Map<string, { stamp: string; sha256: string }>();

/**
 * How a file of sound is. It is read through once, and again where its length or its times have changed: a disk that loses bits
 * while nobody writes shows itself at the next full check or start.
 */
export const soundState = async (
  path: string,
  known: KnownSound,
  options: { anew?: boolean; signal?: AbortSignal } = {},
): Promise<SoundState> => {
  const found = await stat(path).catch(() => null);
  if (!found) return 'missing';
  if (found.size !== known.bytes) return 'damaged';
  if (known.sha256 === '') return 'whole';
  const stamp = `${found.size} ${found.mtimeMs} ${found.ctimeMs}`;
  const before = looked.get(path);
  if (options.anew || before?.stamp !== stamp) {
    const sha256 = await fileDigest(path, options.signal);
    if (sha256 === null) return 'missing';
    looked.set(path, { stamp, sha256 });
  }
  return looked.get(path)?.sha256 === known.sha256 ? 'whole' : 'damaged';
};
