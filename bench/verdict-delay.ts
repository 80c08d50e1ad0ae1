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

/** Bars of semiquavers, but for the last beat. */
const runOf = (bars: number): string =>
  `title: Run\nmeter: 4/4\ntempo: 300\n${'C4/16 D E F G F E D C D E F G F E D | '.repeat(bars - 1)}C4/16 D E F G F E D C D E G r/4 |`;

/** What is played: its notes, where it begins, and how often. */
const PLAYED = [
  { id: 'five-steps', notes: 17, startBpm: 120, repetitions: 8 },
  { id: 'run-of-60', notes: 60, startBpm: 120, repetitions: 8 },
  { id: 'run-of-508', notes: 508, startBpm: 240, repetitions: 4 },
];

interface Decided extends PerformanceMark {
  detail: { tookMs: number; afterLastNoteS: number; afterEndS: number };
}
declare global {
  interface Window {
    /** When each verdict was painted, as the browser tells it (Element Timing API). */
    painted: number[];
  }
}

const folder = await mkdtemp(join(tmpdir(), 'isochron-bench-'));
const server = await spawnServer(folder);
const BASE = server.origin;
try {
  const browser = await chromium.launch(chromiumWith());
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => {
    window.painted = [];
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries()) window.painted.push(entry.startTime);
    }).observe({ type: 'element', buffered: true });
  });
  await setUpWith(page, simulated(3), BASE);
  for (const { id, notes } of PLAYED.slice(1)) {
    const text = new TextEncoder().encode(runOf((notes + 4) / 16));
    const { passage } = await readPassageFile(`${id}.txt`, text, id);
    await page.request.put(`${BASE}/api/passages/${id}?from=0`, { data: passage });
  }
  console.log(
    '| passage, strategy | verdict painted after the last gridline, median (slowest) | deciding, announcing, scheduling, median (slowest) | before the end of the repetition, least |\n|---|---|---|---|',
  );
  for (const { id: passageId, notes, startBpm, repetitions } of PLAYED)
    for (const strategyId of ['half-speed-climb', 'adaptive'] as const) {
      await page.request.patch(`${BASE}/api/practice-configs/${passageId}.first.whole`, { data: { strategyId } });
      await openBench(page, passageId, 300, startBpm, BASE);
      await page.keyboard.press('Enter');
      for (let repetition = 0; repetition < repetitions; repetition += 1) await verdictOf(page, repetition);
      await page.waitForTimeout(500);
      const [painted, decided] = await page.evaluate(() => [
        window.painted,
        performance.getEntriesByName('isochron:decided').map((mark) => ({ atMs: mark.startTime, ...(mark as Decided).detail })),
      ]);
      // The word is painted for the first time after it was decided.
      const delaysMs = decided.map(({ atMs, afterLastNoteS }, index) => {
        const paintedMs = painted[index] ?? Number.NaN;
        if (!(paintedMs > atMs))
          throw new Error(`Verdict ${index + 1} of ${passageId} was not seen painted after it was decided.`);
        return paintedMs - atMs + 1000 * afterLastNoteS;
      });
      const told = (values: readonly number[]) => `${median(values).toFixed(0)} ms (${Math.max(...values).toFixed(0)} ms)`;
      const cells = [
        `${notes} notes, ${strategyId}`,
        told(delaysMs),
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
