import { defineConfig } from '@playwright/test';
import { TEST_MOMENT, TEST_ZONE } from '../scripts/fixed-clock';
import { chromiumWith } from './chromium';
import { PLANTED_WAV, SILENT_WAV } from './fake-sound';

const PORT = 4390;
// For the servers that tests start themselves as well.
Object.assign(process.env, { TZ: TEST_ZONE, ISOCHRON_NOW: TEST_MOMENT });

/** Every test drives the built interface in Debian's Chromium; the microphone is a file, played as if it were live. */
export default defineConfig({
  testDir: '.',
  outputDir: '../test-results/artifacts',
  timeout: 120_000,
  expect: { timeout: 20_000 },
  retries: 0,
  // One audio device and one clock: tests that play take turns.
  workers: 1,
  reporter: [['line'], ['json', { outputFile: '../test-results/e2e.json' }]],
  globalSetup: './fake-sound-setup.ts',
  use: { baseURL: `http://localhost:${PORT}`, viewport: { width: 1280, height: 800 }, trace: 'off', timezoneId: TEST_ZONE },
  projects: [
    { name: 'played', testIgnore: /(microphone|silence|days|\.long)\.spec\.ts/, use: { launchOptions: chromiumWith() } },
    // Half minutes of playing for what core tests cover as well: `npm run test:long`.
    { name: 'long', testMatch: /\.long\.spec\.ts/, use: { launchOptions: chromiumWith() } },
    // At many moments, in many zones: `npm run test:days`.
    { name: 'days', testMatch: /days\.spec\.ts/, use: { launchOptions: chromiumWith() } },
    { name: 'microphone', testMatch: /microphone\.spec\.ts/, use: { launchOptions: chromiumWith(PLANTED_WAV) } },
    { name: 'silence', testMatch: /silence\.spec\.ts/, use: { launchOptions: chromiumWith(SILENT_WAV) } },
  ],
  webServer: {
    command: 'rm -rf test-results/data && node --import tsx server/src/main.ts',
    cwd: '..',
    url: `http://localhost:${PORT}/api/health`,
    timeout: 180_000,
    env: { PORT: String(PORT), ISOCHRON_DATA: 'test-results/data', ISOCHRON_DEMO: '1' },
  },
});
