import { writeWav } from '@isochron/core/material';
import { askedBpm } from '@isochron/core/planning';
import { API } from '@isochron/core/schema';
import { inventAccompaniment, inventBeats } from '@isochron/core/simulation';
import { hasNoViolations } from './accessible';
import {
  changePracticeConfig,
  figureOf,
  newestTake,
  openBench,
  openPart,
  PLAIN_CONFIG,
  partOf,
  pick,
  picked,
  setUpWith,
  simulated,
  verdictOf,
} from './bench-page';
import { playFor } from './driven-clock';
import { expect, type Page, test } from './test';

const BPM = 96;
const LENGTH_S = 20;
const TRUE_S = inventBeats({ bpm: BPM, firstS: 0.7, lengthS: LENGTH_S });
const RECORDING = {
  name: 'Quay band.wav',
  mimeType: 'audio/wav',
  buffer: Buffer.from(
    writeWav(
      inventAccompaniment({ beatsS: TRUE_S, style: 'on every beat', lengthS: LENGTH_S, rateHz: 22_050, seed: 4 }),
      22_050,
    ),
  ),
};

const stored = async (page: Page) => {
  const list = API.accompaniments.parse(await (await page.request.get('/api/accompaniments')).json());
  const id = list.find(({ title }) => title === 'Quay band')?.id;
  return id ? API.accompaniment.parse(await (await page.request.get(`/api/accompaniments/${id}`)).json()) : null;
};
/** Brings the recording through the interface, and waits until its beats are known. */
const bring = async (page: Page) => {
  await page.goto('/material/along');
  await page.getByLabel('A recording to play along with').setInputFiles(RECORDING);
  await expect(page.getByTestId('evenness')).toContainText('off an even pulse');
  await expect.poll(async () => (await beatsOf(page)).length).toBeGreaterThan(0);
};
/** The recording, brought if it is not there. */
const recordingOf = async (page: Page) => {
  if (!(await stored(page))) await bring(page);
  const recording = await stored(page);
  if (!recording) throw new Error('The recording is not there.');
  return recording;
};
const beatsOf = async (page: Page) => (await stored(page))?.beats?.timesS ?? [];
const foundShare = (timesS: readonly number[]) =>
  TRUE_S.filter((one) => timesS.some((timeS) => Math.abs(timeS - one) < 0.04)).length / TRUE_S.length;

test.afterEach(async ({ page }) => {
  await changePracticeConfig(page, { ...PLAIN_CONFIG, playAlong: null });
});

test('a recording is brought, its beats are found, corrected by a key or by tapping, and heard slower, over and over', async ({
  page,
}) => {
  await setUpWith(page, {});
  await page.goto('/material');
  await page.getByRole('button', { name: 'Play along' }).click();
  await page.getByLabel('A recording to play along with').setInputFiles({ ...RECORDING, buffer: Buffer.from('no sound') });
  await expect(page.getByRole('alert')).toContainText('cannot read sound from this file');
  await page.getByLabel('A recording to play along with').setInputFiles(RECORDING);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Quay band');
  await expect(page.getByTestId('evenness')).toContainText('off an even pulse');
  await expect.poll(async () => foundShare(await beatsOf(page))).toBeGreaterThan(0.95);
  const found = await beatsOf(page);
  await hasNoViolations(page);

  await page.getByRole('button', { name: 'Twice as many' }).click();
  await expect.poll(async () => (await beatsOf(page)).length).toBe(2 * found.length - 1);
  await page.keyboard.press('u');
  await expect.poll(() => beatsOf(page)).toEqual(found);
  // The second beat 20 ms later, a bar from there on.
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('l');
  await page.keyboard.press('l');
  await page.keyboard.press('b');
  await expect.poll(async () => (await stored(page))?.beats?.firstBarBeat).toBe(1);
  expect((await beatsOf(page))[1]).toBeCloseTo((found[1] as number) + 0.02, 6);
  await page.keyboard.press('u');
  await page.keyboard.press('u');
  await page.keyboard.press('u');
  await expect.poll(() => beatsOf(page)).toEqual(found);

  await page.getByLabel('Speed').fill('70');
  await pick(page, 'Over and over, from', { label: 'bar 2' });
  await pick(page, 'to the end of', { label: 'bar 3' });
  await pick(page, 'Click on its beats', 'yes');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('p');
  await expect(page.getByRole('button', { name: 'Stop (p)' })).toBeVisible();
  const place = async () => Number(/([\d.]+) s\.$/.exec(await page.getByTestId('place').innerText())?.[1]);
  const beat = 60 / BPM;
  const [loopFrom, loopTo] = [(found[4] as number) - 0.1, (found[12] as number) + 0.1];
  // Two bars at 70 % are 7 s: looked at for longer than that, it never leaves them.
  const seen: number[] = [];
  for (let k = 0; k < 20; k += 1) {
    await playFor(page, 0.45);
    seen.push(await place());
  }
  expect(Math.min(...seen)).toBeGreaterThan(loopFrom);
  expect(Math.max(...seen)).toBeLessThan(loopTo);
  expect(Math.max(...seen) - Math.min(...seen)).toBeGreaterThan(4 * beat);

  // Taps anywhere near the beats: they go to what is heard there.
  for (let k = 0; k < 4; k += 1) {
    await page.keyboard.press('t');
    await playFor(page, beat / 0.7);
  }
  await page.getByRole('button', { name: 'Take these taps' }).click();
  await expect.poll(async () => (await stored(page))?.beats?.support).toBeNull();
  await page.keyboard.press('u');
  await expect.poll(() => beatsOf(page)).toEqual(found);
});

test('what is played along with a recording is measured against its beats, and what is its own is said', async ({ page }) => {
  await setUpWith(page, simulated(3));
  const { id, beats } = await recordingOf(page);
  await page.goto(`/material/along/${id}`);
  await pick(page, 'Play', { label: 'Five steps and back' }, true);
  await pick(page, 'from its', { label: 'bar 2' });
  await expect(page.getByRole('status').filter({ hasText: 'beats long; the recording has' })).toBeVisible();
  await page.getByRole('button', { name: 'To the Bench' }).click();
  await expect(partOf(page, 'Click')).toHaveText('along with a recording');
  await openPart(page, 'Click');
  await expect.poll(() => picked(page, /^Along with$/)).toBe(id);
  await expect(page.getByLabel('Goal')).toHaveValue(/^9[5-7]$/);
  await expect(page.getByTestId('along')).toContainText('Along with “Quay band”');
  await hasNoViolations(page);
  await openBench(page, 'five-steps', 96, 80);
  await page.keyboard.press('Enter');
  const first = await verdictOf(page, 0);
  expect(['clean', 'close']).toContain(first.outcome);
  expect(await figureOf(page, 'spread')).toBeLessThan(8);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('ended')).toBeVisible();
  // The take before this one is the newest until this one has arrived.
  await expect.poll(async () => (await newestTake(page))?.drills[0]?.playAlong?.accompanimentId).toBe(id);
  const take = await newestTake(page);
  const [repetition] = take?.repetitions ?? [];
  const playAlong = take?.drills[0]?.playAlong;
  expect(playAlong).toMatchObject({ accompanimentId: id, title: 'Quay band', fromBeat: 4 });
  expect(playAlong?.timesS).toEqual(beats?.timesS.slice(4, 4 + (playAlong?.timesS.length ?? 0)));
  expect(repetition?.tempo.kind).toBe('beats');
  expect(repetition && askedBpm(repetition)).toBeCloseTo(80, 6);
  await page.goto(`/ledger/${take?.id}`);
  await expect(page.getByTestId('along').first()).toContainText('Along with “Quay band” at 8');
  await hasNoViolations(page);
});

test('a recording that is gone is said on the Bench, and practice goes on without it', async ({ page }) => {
  await setUpWith(page, simulated(3));
  const { id } = await recordingOf(page);
  await changePracticeConfig(page, { playAlong: { accompanimentId: id, fromBeat: 0, goalBpm: 96 } });
  await page.goto(`/material/along/${id}`);
  // What stands above the button is there: nothing moves it under the pointer.
  await expect(page.getByRole('status').filter({ hasText: 'beats long' })).toBeVisible();
  await page.getByRole('button', { name: 'Remove it …' }).click();
  await page.getByRole('button', { name: 'Remove it', exact: true }).click();
  await expect(page).toHaveURL(/\/material\/along$/);
  expect(await stored(page)).toBeNull();
  await page.goto('/bench/five-steps');
  await expect(page.getByRole('alert')).toContainText('cannot be fetched');
  await expect(page.getByRole('button', { name: 'Begin' })).toBeDisabled();
  await openPart(page, 'Click');
  await pick(page, 'Along with', '', true);
  await expect(page.getByRole('button', { name: 'Begin' })).toBeEnabled();
});
