import { fstatSync, readSync } from 'node:fs';
import type { ByteSource } from '@isochron/core/material';

/** The bytes of an open file by parts, so that hours of sound need no more memory than a bar. */
export const fileBytes = (handle: number): ByteSource => ({
  size: fstatSync(handle).size,
  read(from, to) {
    const bytes = new Uint8Array(to - from);
    return bytes.subarray(0, readSync(handle, bytes, 0, bytes.length, from));
  },
});
