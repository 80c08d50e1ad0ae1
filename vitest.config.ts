import { availableParallelism } from 'node:os';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,server,web,cli}/src/**/*.test.{ts,tsx}', 'bench/**/*.test.ts'],
    testTimeout: 60_000,
    // Vitest would leave one processor out; nothing here is timed.
    maxWorkers: availableParallelism(),
    setupFiles: ['scripts/property-seed.mjs'],
  },
});
