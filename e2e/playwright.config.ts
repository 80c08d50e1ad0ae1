import { defineConfig } from '@playwright/test';
import { TEST_MOMENT, TEST_ZONE } from '../scripts/fixed-clock';
import { chromiumWith } from './chromium';
import { PLANTED_WAV } from './fake-sound';

// For the servers that tests start themselves as well.
Object.assign(process.env, { TZ: TEST_ZONE, ISOCHRON_NOW: TEST_MOMENT });

/** Every test drives the built interface in Debian's Chromium. */
export default defineConfig({
  testDir: '.',
  outputDir: '../test-results/artifacts',
  // Nothing here is timed: a machine that has other things to do takes longer.
  timeout: 1_200_000,
  expect: { timeout: 120_000 },
  retries: 0,
  // With more, two processors are so busy that the page falls behind the keys.
  workers: 2,
  // Tests of one file as well: each worker has a server and data of its own.
  fullyParallel: true,
  // Where nobody looks on, what failed is printed last, as the end of a log is what is kept of it.
  reporter: [[process.stdout.isTTY ? 'line' : 'dot'], ['json', { outputFile: '../test-results/e2e.json' }]],
  globalSetup: './prepare.ts',
  use: { actionTimeout: 120_000, viewport: { width: 1280, height: 800 }, trace: 'off', timezoneId: TEST_ZONE },
  projects: [
    { name: 'played', testIgnore: /(live|days)\.spec\.ts/, use: { launchOptions: chromiumWith() } },
    // By the machine's own clock, one after the other, with nothing beside them. `--no-deps` for these alone.
    {
      name: 'live',
      testMatch: /live\.spec\.ts/,
      workers: 1,
      fullyParallel: false,
      dependencies: ['played'],
      use: { launchOptions: chromiumWith(PLANTED_WAV) },
    },
    // At many moments, in many zones: `npm run test:days`.
    { name: 'days', testMatch: /days\.spec\.ts/, use: { launchOptions: chromiumWith() } },
  ],
});
