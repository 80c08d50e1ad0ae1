import { createHash } from 'node:crypto';
import { Transform } from 'node:stream';

/** A stream that lets everything pass and knows its length and checksum at the end. `onBytes` may throw to stop it. */
export const countingStream = (onBytes: (bytes: number, chunk: Buffer) => void) => {
  const hash = createHash('sha256');
  let bytes = 0;
  const stream = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      try {
        hash.update(chunk);
        bytes += chunk.length;
        onBytes(chunk.length, chunk);
        done(null, chunk);
      } catch (error) {
        done(error as Error);
      }
    },
  });
  return { stream, result: () => ({ bytes, sha256: hash.digest('hex') }) };
};
