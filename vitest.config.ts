import { availableParallelism } from 'node:os';
import { defineConfig } from 'vitest/config';
import { TEST_MOMENT, TEST_ZONE } from './scripts/fixed-clock.ts';

export default defineConfig({
  test: {
    // What never ends is found; nothing is timed: beside ten busy processes the longest took two minutes and more.
    testTimeout: 900_000,
    hookTimeout: 900_000,
    // Vitest would leave one processor out.
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
