/**
 * How soon after a repetition the verdict is on screen: `npm run bench:verdict`. Runs the built interface with the
 * simulated player in Chromium; needs `npm run setup` and a build (`npm run build`). Prints a table.
 */
import { spawn } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { median } from '@isochron/core';
import { chromium } from '@playwright/test';
import { openBench, setUpWith, simulated, verdictOf } from '../e2e/bench-page';
import { chromiumWith } from '../e2e/chromium';

const PORT = 4393;
const BASE = `http://localhost:${PORT}`;
const REPETITIONS = 8;

const folder = await mkdtemp(join(tmpdir(), 'isochron-bench-'));
const server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
  cwd: join(import.meta.dirname, '..'),
  env: { ...process.env, PORT: String(PORT), ISOCHRON_DATA: folder, ISOCHRON_DEMO: '0' },
});
try {
  for (
    let tries = 0;
    tries < 60 &&
    !(await fetch(`${BASE}/api/health`).then(
      (a) => a.ok,
      () => false,
    ));
    tries += 1
  ) {
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  const browser = await chromium.launch(chromiumWith());
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await setUpWith(page, simulated(3), BASE);
  await openBench(page, 'five-steps', 300, 120, BASE);
  await page.keyboard.press('Enter');
  for (let repetition = 0; repetition < REPETITIONS; repetition += 1) await verdictOf(page, repetition);
  await page.waitForTimeout(500);
  const delaysMs = await page.evaluate(() =>
    performance
      .getEntriesByName('isochron:verdict-shown')
      .map((entry) => (entry as PerformanceMark).detail.afterLastNoteS * 1000),
  );
  await browser.close();
  console.log('| repetitions of 17 notes | median | slowest |\n|---|---|---|');
  console.log(`| ${delaysMs.length} | ${median(delaysMs).toFixed(0)} ms | ${Math.max(...delaysMs).toFixed(0)} ms |`);
} finally {
  server.kill();
  await rm(folder, { recursive: true, force: true });
}
