import { createHash, type Hash } from 'node:crypto';

/** So many uploads at once are followed; the oldest is forgotten, and begins anew. */
const MAX_UPLOADS = 64;

/** The checksum of an upload so far, at each place where a piece of it ended. */
const uploads = new Map<string, Map<number, Hash>>();

/** The checksum of an upload up to an address, to be gone on with; null where its beginning was not seen. */
export const hashUpTo = (upload: string, at: number): Hash | null =>
  at === 0 ? createHash('sha256') : (uploads.get(upload)?.get(at)?.copy() ?? null);

/** Notes the checksum of an upload up to an address. */
export const noteHash = (upload: string, at: number, hash: Hash): void => {
  const ends = uploads.get(upload) ?? new Map<number, Hash>();
  uploads.delete(upload);
  uploads.set(upload, ends.set(at, hash));
  const [oldest] = uploads.keys();
  if (uploads.size > MAX_UPLOADS && oldest !== undefined) uploads.delete(oldest);
};

/** Forgets an upload that is over. */
export const forgetHashes = (upload: string): void => {
  uploads.delete(upload);
};
