/**
 * How soon after a repetition the next tempo is decided, announced and scheduled, and the verdict is on screen: `npm run bench:verdict`. Runs
 * the built interface with the simulated player in Chromium; needs `npm run setup` and a build (`npm run build`). Prints a table.
 */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { median } from '@isochron/core/analysis';
import { readPassageFile } from '@isochron/core/score';
import { chromium } from '@playwright/test';
import { openBench, setUpWith, simulated, verdictOf } from '../e2e/bench-page';
import { chromiumWith } from '../e2e/chromium';
import { spawnServer } from '../server/src/testing/spawn-server';

const REPETITIONS = 8;
/** Four bars of semiquavers, but for the last beat. */
const SIXTY_NOTES = `title: Sixty\nmeter: 4/4\ntempo: 300\n${'C4/16 D E F G F E D '.repeat(7)}C D E G r/4 |`;

const folder = await mkdtemp(join(tmpdir(), 'isochron-bench-'));
const server = await spawnServer(folder);
const BASE = server.origin;
try {
  const browser = await chromium.launch(chromiumWith());
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await setUpWith(page, simulated(3), BASE);
  const { passage } = await readPassageFile('sixty.txt', new TextEncoder().encode(SIXTY_NOTES), 'sixty');
  await page.request.put(`${BASE}/api/passages/sixty?from=0`, { data: passage });
  console.log(
    '| passage, strategy | verdict painted after the last gridline, median (slowest) | deciding, announcing, scheduling, median (slowest) | before the end of the repetition, least |\n|---|---|---|---|',
  );
  for (const [passageId, notes] of [
    ['five-steps', 17],
    ['sixty', 60],
  ] as const)
    for (const strategyId of ['half-speed-climb', 'adaptive'] as const) {
      await page.request.patch(`${BASE}/api/practice-configs/${passageId}.first.whole`, { data: { strategyId } });
      await openBench(page, passageId, 300, 120, BASE);
      await page.keyboard.press('Enter');
      for (let repetition = 0; repetition < REPETITIONS; repetition += 1) await verdictOf(page, repetition);
      await page.waitForTimeout(500);
      // No function with a name goes to the page: the name would be kept by a helper that is not there.
      const [shown = [], decided = []] = await page.evaluate(
        (names) => names.map((name) => performance.getEntriesByName(name).map((entry) => (entry as PerformanceMark).detail)),
        ['isochron:verdict-shown', 'isochron:decided'],
      );
      const told = (values: readonly number[]) => `${median(values).toFixed(0)} ms (${Math.max(...values).toFixed(0)} ms)`;
      const cells = [
        `${notes} notes, ${strategyId}`,
        told(shown.map(({ afterLastNoteS }) => 1000 * afterLastNoteS)),
        told(decided.map(({ tookMs }) => tookMs)),
        `${Math.min(...decided.map(({ afterEndS }) => -1000 * afterEndS)).toFixed(0)} ms`,
      ];
      console.log(`| ${cells.join(' | ')} |`);
      await page.keyboard.press('Escape');
      // Marks are of one page.
      await page.goto('about:blank');
    }
  await browser.close();
} finally {
  server.kill();
  await rm(folder, { recursive: true, force: true });
}
