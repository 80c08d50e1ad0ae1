import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { READERS } from './readers';

// What the fuzzer found to lead somewhere: each input is read, or refused in words; anything else throws, or never ends.
describe('every input that was kept by the fuzzer', () => {
  it.each(READERS.map((reader) => [reader.name, reader] as const))(
    'is read or refused: %s',
    async (name, { read }) => {
      const inputs = Object.values(unzipSync(readFileSync(join(import.meta.dirname, 'corpus', `${name}.zip`))));
      expect(inputs.length).toBeGreaterThan(0);
      for (const bytes of inputs) await read(bytes);
    },
    120_000,
  );
});
