/**
 * `npm run bench:years`: how quick Isochron is after years of practice. Fills a data folder with 100, then 100 000 takes, and times
 * every request and every place over each; then a take of 2 000 notes, a file of an hour, and inputs that invite quadratic work.
 * Prints the tables of docs/figures.md.
 */
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BUILT_IN_PASSAGES } from '@isochron/core/material';
import type { Take } from '@isochron/core/schema';
import { type Browser, chromium } from '@playwright/test';
import { chromiumWith } from '../e2e/chromium';
import { openStore } from '../server/src/database/open';
import { storeMissingPassages } from '../server/src/passages';
import { makeOne, PRACTICE_SESSION, sendJson } from '../server/src/testing/made-takes';
import { type SpawnedServer, spawnServer } from '../server/src/testing/spawn-server';
import { hour, quadratic } from './years/long-files';
import { fill, MANY } from './years/ten-years';

const FEW = 100;
const REQUESTS = 25;
const work = mkdtempSync(join(tmpdir(), 'isochron-years-'));

const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))] as number;

interface Timed {
  name: string;
  medianMs: number;
  worstMs: number;
  /** The first one, before anything was compiled or cached. */
  firstMs: number;
}

const timed = async (name: string, ask: () => Promise<Response>): Promise<Timed> => {
  const times: number[] = [];
  for (let k = 0; k < REQUESTS; k += 1) {
    const from = performance.now();
    const answer = await ask();
    await answer.arrayBuffer();
    times.push(performance.now() - from);
    if (!answer.ok) throw new Error(`${name}: ${answer.status}`);
  }
  const [firstMs = 0, ...others] = times;
  return { name, firstMs, medianMs: quantile(others, 0.5), worstMs: Math.max(...others) };
};

const requests = async ({ api }: SpawnedServer, count: number): Promise<Timed[]> => {
  const first = BUILT_IN_PASSAGES[0]?.id;
  const id = `${Math.floor(count / 2)
    .toString(16)
    .padStart(8, '0')}-0000-4000-8000-000000000000`;
  const get = (path: string) => () => fetch(api + path);
  const deep = Math.floor(count * 0.55);
  return [
    await timed('passages', get('/passages')),
    await timed('practiceConfigs', get('/practice-configs')),
    await timed('takes of a passage, first page', get(`/takes?passageId=${first}&limit=100`)),
    await timed('takes of a passage, last page', get(`/takes?passageId=${first}&limit=100&offset=${deep}`)),
    await timed('takes by best clean tempo', get(`/takes?passageId=${first}&limit=100&sort=bestCleanBpm`)),
    await timed('takes with a recording, by start', get(`/takes?passageId=${first}&limit=100&show=recorded&sort=startBpm`)),
    await timed('takes with a clean repetition', get(`/takes?passageId=${first}&limit=100&show=clean&sort=repetitionCount`)),
    await timed('takes of all passages', get('/takes?limit=100')),
    await timed('tempo history', get(`/passages/${first}/history`)),
    await timed('days of half a year, all passages', get('/practice?from=2026-05-20')),
    await timed('days of a passage, a year', get(`/practice?passageId=${first}&every=true&from=2025-11-20`)),
    await timed('a configuration altogether', get(`/practice/totals?passageId=${first}&variantId=first&sectionId=whole`)),
    await timed('a passage over all years, by stretches', get(`/passages/${first}/progress?variantId=first&sectionId=whole`)),
    await timed('recordings to play along with', get('/accompaniments')),
    await timed('takes with words that none has', get('/takes?limit=100&text=no%20such%20words')),
    await timed('takes with words that most have', get('/takes?limit=100&text=steps')),
    await timed('what is due for measuring anew', get('/reanalysis')),
    await timed('one take', get(`/takes/${id}`)),
    await timed('storing a take', () => {
      const take = makeOne();
      return sendJson(`${api}/takes/${take.id}`, 'PUT', take);
    }),
    await timed('changing a setting', () => sendJson(`${api}/settings`, 'PATCH', { clickLevel: 0.5 })),
    await timed('health', get('/health')),
  ];
};

/** The places, and what is seen when each can be used. */
const PLACES: readonly { name: string; path: string; usable: string }[] = [
  { name: 'Today', path: '/', usable: 'ol li a' },
  { name: 'Bench', path: '/bench/five-steps', usable: 'button[type=submit]' },
  { name: 'Material', path: '/material', usable: 'main a[href^="/bench/"]' },
  { name: 'Ledger', path: '/ledger', usable: 'main table tbody tr td a' },
  { name: 'A passage over weeks', path: '/ledger/tempo/five-steps', usable: '[data-testid=goal-range]' },
  { name: 'Setup', path: '/setup', usable: 'main input:visible' },
];

const places = async (browser: Browser, { api }: SpawnedServer, takeId: string): Promise<Timed[]> => {
  const base = api.replace('/api', '');
  const found: Timed[] = [];
  const all = [...PLACES, { name: 'A take', path: `/ledger/${takeId}`, usable: 'main table tbody tr' }];
  for (const { name, path, usable } of all) {
    const times: number[] = [];
    for (let k = 0; k < 7; k += 1) {
      const page = await browser.newPage();
      const from = performance.now();
      await page.goto(base + path);
      await page.locator(usable).first().waitFor();
      times.push(performance.now() - from);
      await page.close();
    }
    found.push({ name, firstMs: times[0] ?? 0, medianMs: quantile(times, 0.5), worstMs: Math.max(...times) });
  }
  return found;
};

const peakMb = ({ process: child }: SpawnedServer): number =>
  Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1]) / 1000;

const over = async (count: number) => {
  const folder = await fill(count, work);
  const server = await spawnServer(folder);
  const browser = await chromium.launch(chromiumWith());
  try {
    const asked = await requests(server, count);
    const seen = await places(browser, server, '00000010-0000-4000-8000-000000000000');
    return { asked, seen, peak: peakMb(server), databaseMb: statSync(join(folder, 'isochron.db')).size / 1e6 };
  } finally {
    await browser.close();
    await server.kill();
    rmSync(folder, { recursive: true });
  }
};

const row = (...cells: (string | number)[]) =>
  console.log(`| ${cells.map((cell) => (typeof cell === 'number' ? cell.toFixed(cell < 10 ? 1 : 0) : cell)).join(' | ')} |`);

/** A take of two repetitions of a thousand notes each. */
const longTake = (): Take => {
  const take = makeOne();
  const [repetition] = take.repetitions;
  const [note] = repetition?.notes ?? [];
  if (!repetition || !note) throw new Error('nothing to make it of');
  const notes = Array.from({ length: 1000 }, (_, index) => ({
    ...note,
    index,
    expectedS: index / 7,
    onsetS: index / 7 + 0.0012345,
  }));
  return { ...take, repetitions: [0, 1].map((index) => ({ ...repetition, index, notes })) };
};

const takeOf2000 = async () => {
  const folder = join(work, 'long');
  const store = await openStore(folder);
  await storeMissingPassages(store, BUILT_IN_PASSAGES);
  await store.close();
  const server = await spawnServer(folder);
  await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
  const long = longTake();
  const stored = await timed('stored', () => sendJson(`${server.api}/takes/${randomUUIDOf(long)}`, 'PUT', long));
  const read = await timed('read', () => fetch(`${server.api}/takes/${long.id}`));
  await server.kill();
  return { stored, read };
};

/** Gives a take another id, so that it is a new one. */
const randomUUIDOf = (take: Take): string => {
  take.id = randomUUID();
  return take.id;
};

try {
  const few = await over(FEW);
  const many = await over(MANY);
  console.log(
    `\n| request, ms: median (worst) of ${REQUESTS - 1} after the first | ${FEW} takes | ${MANY} takes |\n|---|---|---|`,
  );
  few.asked.forEach(({ name, medianMs, worstMs }, k) => {
    const there = many.asked[k] as Timed;
    row(name, `${medianMs.toFixed(1)} (${worstMs.toFixed(0)})`, `${there.medianMs.toFixed(1)} (${there.worstMs.toFixed(0)})`);
  });
  console.log(
    `\n| place, ms until it can be used, median of 7 | ${FEW} takes | ${MANY} takes | difference |\n|---|---|---|---|`,
  );
  few.seen.forEach(({ name, medianMs }, k) => {
    const there = many.seen[k] as Timed;
    row(name, medianMs, there.medianMs, there.medianMs - medianMs);
  });
  console.log(
    `\nPeak memory of the server: ${few.peak.toFixed(0)} MB and ${many.peak.toFixed(0)} MB; database ${many.databaseMb.toFixed(0)} MB.`,
  );
  const { stored, read } = await takeOf2000();
  console.log(
    `A take of 2 000 notes: stored in ${stored.medianMs.toFixed(0)} ms (worst ${stored.worstMs.toFixed(0)}, the first ever ${stored.firstMs.toFixed(0)}), read in ${read.medianMs.toFixed(0)} ms (worst ${read.worstMs.toFixed(0)}, the first ever ${read.firstMs.toFixed(0)}).`,
  );
  const { minutes, heardMs, allMs, onsets, repetitions } = hour(work);
  console.log(
    `A file of ${minutes} min (${onsets} onsets, ${repetitions} repetitions): ${(allMs / minutes / 1000).toFixed(2)} s a minute, of which ${(heardMs / minutes / 1000).toFixed(2)} listening.`,
  );
  const { togetherMs, measureMs, measureHourMs } = quadratic(work);
  console.log(
    `20 000 notes at one moment: ${(togetherMs / 1000).toFixed(1)} s. \`measure --per-beat 24 --beats 4000\`: ${(measureMs / 1000).toFixed(1)} s on a minute of sound, ${(measureHourMs / 1000).toFixed(1)} s on the hour.`,
  );
} finally {
  rmSync(work, { recursive: true, force: true });
}
