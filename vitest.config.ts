import { availableParallelism } from 'node:os';
import { defineConfig } from 'vitest/config';
import { TEST_MOMENT, TEST_ZONE } from './scripts/fixed-clock.ts';

export default defineConfig({
  test: {
    testTimeout: 60_000,
    hookTimeout: 60_000,
    // Vitest would leave one processor out; nothing here is timed.
    maxWorkers: availableParallelism(),
    globalSetup: 'scripts/bundle-server.mjs',
    setupFiles: ['scripts/property-seed.mjs', 'scripts/set-clock.ts'],
    // For the programs that tests start as well.
    env: { TZ: TEST_ZONE, ISOCHRON_NOW: TEST_MOMENT },
    projects: [
      // Pure functions: nothing that one file does could reach another, so that what they share is loaded once.
      { extends: true, test: { name: 'pure', include: ['core/src/**/*.test.ts', 'bench/**/*.test.ts'], isolate: false } },
      { extends: true, test: { name: 'whole', include: ['{server,web,cli}/src/**/*.test.{ts,tsx}'] } },
    ],
  },
});
