import { defineConfig } from '@playwright/test';
import { TEST_MOMENT, TEST_ZONE } from '../scripts/fixed-clock';
import { chromiumWith } from './chromium';
import { PLANTED_WAV } from './fake-sound';

// For the servers that tests start themselves as well.
Object.assign(process.env, { TZ: TEST_ZONE, ISOCHRON_NOW: TEST_MOMENT });

/** Every test drives the built interface in Debian's Chromium; the microphone is a file, played as if it were live. */
export default defineConfig({
  testDir: '.',
  outputDir: '../test-results/artifacts',
  timeout: 120_000,
  expect: { timeout: 20_000 },
  retries: 0,
  fullyParallel: false,
  workers: 2,
  reporter: [['line'], ['json', { outputFile: '../test-results/e2e.json' }]],
  globalSetup: './prepare.ts',
  use: { viewport: { width: 1280, height: 800 }, trace: 'off', timezoneId: TEST_ZONE },
  projects: [
    { name: 'played', testIgnore: /(live|days)\.spec\.ts/, use: { launchOptions: chromiumWith() } },
    // By the machine's own clock, one after the other, with nothing beside them.
    { name: 'live', testMatch: /live\.spec\.ts/, workers: 1, use: { launchOptions: chromiumWith(PLANTED_WAV) } },
    // At many moments, in many zones: `npm run test:days`.
    { name: 'days', testMatch: /days\.spec\.ts/, use: { launchOptions: chromiumWith() } },
  ],
});
