import { API, DEFAULT_SETTINGS } from '@isochron/core/schema';
import { hasNoViolations } from './accessible';
import {
  beginRun,
  changePracticeConfig,
  choose,
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
import { playUntil } from './driven-clock';
import { expect, test } from './test';

test.afterEach(async ({ page }) => changePracticeConfig(page, PLAIN_CONFIG));

test('one key leads to a loose end', async ({ page }) => {
  await setUpWith(page, simulated(2));
  await openBench(page, 'five-steps', 200, 170);
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await page.keyboard.press('r');
  await expect(page.getByTestId('tempo')).toHaveText('163');
  await playUntil(page, '[data-testid=ended]', 'Ended loose.');
  await expect(page.getByTestId('summary')).toContainText('Next time it begins at');
  await expect(page.getByTestId('day-words')).toContainText('Today slow to fast:');
  await expect(page.getByTestId('day-words')).toContainText('To finish, once more and loose: at');
});

test('easy and edge tempo, and what each strategy would have asked for, stand on a page', async ({ page }) => {
  await page.goto('/ledger');
  await pick(page, 'Passage', { label: 'Long-short walk' });
  await page.getByRole('link', { name: 'Easy and edge tempo' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Tempo of Long-short walk');
  await expect(page.getByTestId('curve-words').first()).toContainText(
    /The edge, clean every other time: about|The edge cannot be told yet/,
  );
  await expect(page.getByRole('img', { name: /Tempo curve of Long-short walk/ })).toBeVisible();
  await expect(page.getByTestId('both-sides')).toContainText(
    /Climbed to \d+, bursts at \d+: \d+ apart; on the first day it was \d+\./,
  );
  await expect(page.getByRole('img', { name: /from both sides: on/ })).toBeVisible();
  await expect(page.getByTestId('strategies-sentence')).toContainText('would have asked for the fastest tempos');
  await pick(page, 'Tempo plan', 'notch-by-notch', true);
  await pick(page, 'And', 'none', true);
  await expect(page.getByText('One mark up after ten clean')).toBeVisible();
  await hasNoViolations(page);
  await page.goto('/ledger/tempo/tidewheel-wave');
  await expect(page.getByTestId('curve-words').first()).toContainText('The edge, clean every other time: about');
  await page.setViewportSize({ width: 390, height: 800 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await page.goto('/ledger/tempo/no-such-passage');
  await expect(page.getByText('There is no such passage.')).toBeVisible();
});

test('the click is grouped as the player groups it, and its sound is chosen', async ({ page }) => {
  await page.goto('/bench/five-steps');
  await choose(page, 'Click', 'on the first of every few bars');
  await pick(page, 'The first of every', '4', true);
  await expect
    .poll(async () => {
      const practiceConfigs = API.practiceConfigs.parse(await (await page.request.get('/api/practice-configs')).json());
      return practiceConfigs.find(({ passageId }) => passageId === 'five-steps')?.click;
    })
    .toMatchObject({ kind: 'bars', everyBars: 4 });
  await pick(page, 'Count-in', { label: '2 bars' });
  await expect(page.getByText('2 bars of count-in, in the value of the first note.')).toBeVisible();
  await choose(page, 'Click', 'on each group of the meter');
  await expect.poll(() => picked(page, 'Grouped')).toBe('2+2');
  await page.goto('/setup/click');
  await pick(page, 'Sound of the click', 'glass');
  await pick(page, 'First of the bar', '6', true);
  await expect
    .poll(async () => API.settings.parse(await (await page.request.get('/api/settings')).json()))
    .toMatchObject({ clickSound: 'glass', accentDb: 6 });
  await hasNoViolations(page);
  await setUpWith(page, {});
});

test('three blocks run by themselves: a tense answer, an override, a reload, and pain ends it', async ({ page }) => {
  await setUpWith(page, simulated(2));
  // The way in by hand, then the same with time boxes of a third of a minute: enough for one repetition each.
  await page.goto('/');
  const [first = '', second = '', third = ''] = await beginRun(page, 3, 0.3);
  await expect(page.getByTestId('countdown')).toContainText('It begins by itself');
  await expect(page.getByTestId('run')).toContainText(`then ${second}`);
  await playUntil(page, '[data-testid=tempo]');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(first);
  await page.keyboard.press('ArrowUp');
  await verdictOf(page, 0);
  await page.keyboard.press('3');
  // The time is up: the take ends after what sounds, and the next block begins by itself.
  await playUntil(page, 'h1', second);
  await playUntil(page, '[data-testid=tempo]');
  await page.reload();
  await expect(page.getByTestId('run')).toContainText('block 2 of 3');
  await playUntil(page, 'h1', third);
  await playUntil(page, '[data-testid=tempo]');
  // On a slow machine its time may be up by then: the answer counts all the same.
  await playUntil(page, '[data-testid=verdict], [data-testid=ended]');
  await page.keyboard.press('0');
  await expect(page.getByTestId('ended')).toHaveText('Stopped, because it hurt.');
  await expect(page.getByTestId('run')).toHaveCount(0);

  // It is remembered: the day is lighter, a take begins lower, and only once it was asked whether it still hurts.
  await page.goto('/');
  await expect(page.getByText(/It hurt lately, so today is lighter/)).toBeVisible();
  await hasNoViolations(page);
  await page.goto('/bench/five-steps');
  await expect(page.getByText(/It hurt lately: clearly lower than usual/)).toBeVisible();
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('pain-question')).toContainText('Does anything hurt now?');
  await expect(page.getByTestId('tempo')).toHaveCount(0);
  await hasNoViolations(page);
  await page.keyboard.press('Enter');
  await playUntil(page, '[data-testid=tempo]');
  await page.keyboard.press('Escape');
  await setUpWith(page, {});
});

test('a key and a MIDI key of the player’s own, each set by pressing it, work on the Bench', async ({ page }) => {
  await page.addInitScript(() => {
    const input = Object.assign(new EventTarget(), { id: 'made', open: async () => input });
    const access = Object.assign(new EventTarget(), { inputs: new Map([['made', input]]) });
    Object.defineProperty(navigator, 'requestMIDIAccess', { value: async () => access });
    window.addEventListener('press-midi', (event) => {
      const data = (event as CustomEvent<number[]>).detail;
      input.dispatchEvent(Object.assign(new Event('midimessage'), { data: new Uint8Array(data) }));
    });
  });
  const press = (...bytes: number[]) =>
    page.evaluate((detail) => window.dispatchEvent(new CustomEvent('press-midi', { detail })), bytes);
  await setUpWith(page, simulated(2));
  await page.goto('/setup/keys');
  await page.getByRole('button', { name: 'Set a key for: begin, go on' }).click();
  await page.keyboard.press('x');
  await expect(page.getByTestId('own-begin')).toHaveText('X');
  await page.getByRole('button', { name: 'Set a key for: faster' }).click();
  await page.keyboard.press('x');
  await expect(page.getByText('X is “begin, go on” already. Choose another key.')).toBeVisible();
  await page.getByRole('button', { name: 'Set a key for: stop' }).click();
  await press(0xb0, 64, 127);
  await expect(page.getByTestId('own-stop')).toHaveText('MIDI pedal 64');
  await hasNoViolations(page);
  await openBench(page, 'five-steps', 200, 170);
  await page.keyboard.press('x');
  await verdictOf(page, 0);
  await press(0xb0, 64, 0);
  await expect(page.getByTestId('tempo')).toBeVisible();
  await press(0xb0, 64, 90);
  await expect(page.getByTestId('ended')).toHaveText('Stopped.');
  await setUpWith(page, {});
});

test('a sweep finds where it breaks, and the work goes on under it', async ({ page }) => {
  await setUpWith(page, { input: 'simulated', skill: { ...DEFAULT_SETTINGS.skill, spreadMs: 3, easyUpToBpm: 190 } });
  await changePracticeConfig(page, { strategyId: 'below-the-break' });
  await openBench(page, 'five-steps', 240, 180);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('way')).toContainText('A sweep');
  await expect(page.getByTestId('tempo')).toHaveText('108–270');
  expect((await verdictOf(page, 0)).text).toContain('Evenness broke at about');
  await expect(page.getByTestId('way')).toHaveCount(0);
  const worksAt = Number(await page.getByTestId('tempo').innerText());
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  const take = await newestTake(page);
  const broke = take?.repetitions[0]?.measures.breakBpm;
  expect(take?.drills.map(({ repetitionKind }) => repetitionKind)).toEqual([undefined, 'sweep']);
  expect(broke?.value).toBeGreaterThan(175);
  expect(broke?.value).toBeLessThan(215);
  expect(worksAt).toBe(Math.round(0.97 * (broke?.value ?? 0)));
});

test('a tempo that will not come clean makes the loop pause, with drills for the step that goes wrong by one key', async ({
  page,
}) => {
  // One note is late every time.
  await setUpWith(page, {
    input: 'simulated',
    skill: { ...DEFAULT_SETTINGS.skill, spreadMs: 5, easyUpToBpm: null, habitsMs: { 7: 45 } },
  });
  await openBench(page, 'five-steps', 300, 120);
  await page.keyboard.press('Enter');
  await playUntil(page, '[data-testid=phase]', 'A moment to think');
  await expect(page.getByRole('list', { name: 'Questions worth asking' })).toContainText('Is it that one?');
  await expect(page.getByRole('button', { name: 'Practise this (D)' })).toBeVisible();
  await page.keyboard.press('d');
  await expect(partOf(page, 'Practice method')).not.toHaveText('straight');
  // What was chosen stands in the notebook with the tempo, so that another day says how it went.
  const [entry] = API.notebook.parse(await (await page.request.get('/api/notebook')).json());
  expect(entry).toMatchObject({ passageId: 'five-steps', fromBar: 1, toBar: 1, atBpm: expect.any(Number) });
  await expect(page.getByTestId('notebook')).toContainText(entry?.text ?? '');
  // Leaving the drill goes back to the passage; the next time it does not come, what was tried is told.
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Back to the passage (S)' }).waitFor();
  await page.keyboard.press('s');
  await expect(partOf(page, 'Practice method')).toHaveText('straight');
  await page.getByLabel('Start', { exact: true }).fill('120');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Enter');
  await playUntil(page, '[data-testid=phase]', 'A moment to think');
  await expect(page.getByTestId('tried-before')).toContainText(/^Tried before: one spot, .*, once, last on/);
  await page.keyboard.press('Escape');
});

test('a minimum before a raise is kept to', async ({ page }) => {
  await setUpWith(page, simulated(2));
  await openBench(page, 'five-steps', 200, 170);
  await openPart(page, 'Tempo plan');
  await pick(page, 'Before any raise', '2');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Enter');
  expect(await verdictOf(page, 0)).toMatchObject({ action: 'hold', nextBpm: 170 });
  expect(await verdictOf(page, 1)).toMatchObject({ action: 'raise', nextBpm: 175 });
  await page.keyboard.press('Escape');
});

test('the goal, clean three times in a row, ends the take by itself', async ({ page }) => {
  await setUpWith(page, simulated(2));
  await openBench(page, 'in-on-the-upbeat', 150, 150);
  await page.keyboard.press('Enter');
  await playUntil(page, '[data-testid=ended]', 'The goal is clean.');
});
