import { stat } from 'node:fs/promises';

/** A file's length in bytes; null where there is none. */
export const fileSize = (path: string): Promise<number | null> =>
  stat(path).then(
    ({ size }) => size,
    () => null,
  );
