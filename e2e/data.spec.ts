import { createHash } from 'node:crypto';
import { mkdtemp, readdir, rename, rm, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readWav } from '@isochron/core/material';
import { API } from '@isochron/core/schema';
import sqlite3 from 'sqlite3';
import { makeOne, makeWav, PRACTICE_SESSION, sendJson, sendWav } from '../server/src/testing/made-takes';
import { type SpawnedServer, spawnServer } from '../server/src/testing/spawn-server';
import { hasNoViolations } from './accessible';
import { newestTake, openBench, setUpWith, simulated, verdictOf } from './bench-page';
import { playFor, playUntil } from './driven-clock';
import { expect, type Page, test } from './test';

/** A day of rest in the usual week. */
const SUNDAY = '2026-11-29T10:00:00.000Z';
let folder: string;
let server: SpawnedServer;
let base: string;

test.beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'isochron-data-'));
  server = await spawnServer(folder, { env: { ISOCHRON_NOW: SUNDAY } });
  base = server.origin;
});
test.afterAll(async () => {
  await server.kill();
  await rm(folder, { recursive: true, force: true });
});

/** Takes of the day before, with their sound. */
const play = async (count: number): Promise<string[]> => {
  await sendJson(`${base}/api/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
  const ids: string[] = [];
  for (let k = 0; k < count; k += 1) {
    const take = { ...makeOne(), startedAt: `2026-11-28T1${k}:00:00.000Z`, endedAt: null };
    expect((await sendJson(`${base}/api/takes/${take.id}`, 'PUT', take)).status).toBe(200);
    await sendWav(`${base}/api/takes/${take.id}/recording`, makeWav(k, 60_000));
    ids.push(take.id);
  }
  return ids;
};
const inDatabase = (sql: string) =>
  new Promise<void>((resolve, reject) => {
    const database = new sqlite3.Database(join(folder, 'isochron.db'), () => {
      database.exec(sql, (error) => database.close(() => (error ? reject(error) : resolve())));
    });
  });
const chunksKept = (page: Page): Promise<number> =>
  page.evaluate(
    () =>
      new Promise<number>((resolve, reject) => {
        const opening = indexedDB.open('isochron-unsent');
        opening.onerror = () => reject(opening.error);
        opening.onsuccess = () => {
          const counting = opening.result.transaction('chunks').objectStore('chunks').count();
          counting.onsuccess = () => {
            opening.result.close();
            resolve(counting.result);
          };
        };
      }),
  );

test('a newcomer on a day of rest has a plan; later a day of rest has one at a press', async ({ page }) => {
  await setUpWith(page, { firstDay: 'over' }, base);
  await page.goto(base);
  await expect(page.getByText('Sunday 29 November')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Begin', exact: true })).toBeVisible();
  await expect(page.getByTestId('plan-why')).toContainText('15 minutes to begin with');
  await play(6);
  await page.evaluate(() => localStorage.clear());
  await page.goto(base);
  await expect(page.getByRole('heading', { name: 'A day of rest' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Begin', exact: true })).toHaveCount(0);
  await hasNoViolations(page);
  await page.getByRole('button', { name: 'Play for 15 minutes' }).click();
  await expect(page.getByRole('button', { name: 'Begin', exact: true })).toBeVisible();
  await expect(page.getByTestId('plan-why')).toContainText('15 minutes, by your own choice.');
});

test('what the disk changed is said where it matters, and tidied up at a press', async ({ page }) => {
  const [cut = '', gone = '', wrong = ''] = await play(3);
  const recordings = join(folder, 'recordings');
  await truncate(join(recordings, `${cut}.wav`), 50_000);
  await rename(join(recordings, `${gone}.wav`), join(recordings, 'old-tape.wav'));
  await inDatabase(`UPDATE takes SET goalBpm = 251 WHERE id = '${wrong}'`);
  await page.goto(`${base}/setup/data`);
  await page.getByRole('button', { name: 'Check it now' }).click();
  const data = page.locator('#data');
  await expect(data).toContainText('One entry of the database is not as it was written');
  await expect(data).toContainText(/The last good copy is copies\/isochron-2026-11-29\.db|There is no copy of it/);
  await expect(data).toContainText('One recording is not as it was recorded');
  await expect(data).toContainText('One file in the folder “recordings” belongs to no take.');
  await hasNoViolations(page);
  await data.getByRole('button', { name: 'Tidy up' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Tidy up' }).click();
  await expect(data).toContainText('One file was moved to the folder set-aside-2026-11-29');
  await expect(data).toContainText('One recording is not mentioned any more.');
  expect((await readdir(folder)).some((name) => name.startsWith('set-aside-'))).toBe(true);

  await page.goto(`${base}/ledger/${cut}`);
  await expect(page.getByText('This recording was changed on the disk')).toBeVisible();
  await page.getByRole('button', { name: 'Hear what is left of it' }).click();
  await expect(page.getByText('This recording was changed on the disk')).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'The recording as WAV' })).toHaveAttribute('href', /asIs=1/);
  await page.goto(`${base}/ledger/${wrong}`);
  await expect(page.getByRole('alert').first()).toContainText('cannot be read');
  await page.getByRole('link', { name: 'What to do' }).click();
  await expect(page.getByRole('heading', { name: 'Your data' })).toBeInViewport();
  await inDatabase(`UPDATE takes SET goalBpm = (SELECT goalBpm FROM takes WHERE id = '${cut}') WHERE id = '${wrong}'`);
});

test('a backup that is not to be trusted is refused with a sentence, and all stays as it is', async ({ page }) => {
  const before = API.takes.parse(await (await fetch(`${base}/api/takes`)).json()).total;
  const file = join(folder, `${createHash('sha256').update('x').digest('hex').slice(0, 8)}.zip`);
  await writeFile(file, 'PK\u0005\u0006'.padEnd(22, '\0'));
  await page.goto(`${base}/setup/backup`);
  await page.getByLabel('A backup to restore').setInputFiles(file);
  await page.getByRole('button', { name: 'Restore it' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Restore it' }).click();
  await expect(page.getByText('This is not a backup of Isochron.')).toBeVisible();
  expect(API.takes.parse(await (await fetch(`${base}/api/takes`)).json()).total).toBe(before);
});

test('the recording stands still where the loop does, and what is played after is measured and kept', async ({ page }) => {
  await setUpWith(page, simulated(60), base);
  await openBench(page, 'five-steps', 200, 180, base);
  await page.keyboard.press('Enter');
  await playUntil(page, 'button', 'Go on at');
  const goOn = page.getByRole('button', { name: /^Go on at/ });
  // What still sounds is recorded; then nothing more.
  await playFor(page, 2.5);
  const still = await chunksKept(page);
  await playFor(page, 6);
  expect(await chunksKept(page)).toBe(still);
  const before = Number(await page.locator('[data-testid=verdict]').first().getAttribute('data-repetition'));
  await goOn.click();
  await verdictOf(page, before + 1);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  const take = await newestTake(page, base);
  const last = take?.repetitions.at(-1);
  // The pause itself is no gap.
  expect(take?.gaps ?? []).toEqual([]);
  // Its times are those of the recording: the last note lies within it, near its end.
  const { samples, sampleRateHz } = readWav(await (await page.request.get(`${base}/api/takes/${take?.id}/recording`)).body());
  const lengthS = samples.length / sampleRateHz;
  const lastNoteS = last?.notes.at(-1)?.expectedS ?? 0;
  expect(lastNoteS).toBeLessThan(lengthS);
  expect(lengthS - lastNoteS).toBeLessThan(8);
});
