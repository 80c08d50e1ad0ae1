import { API, DEFAULT_SETTINGS } from '@isochron/core/schema';
import { hasNoViolations } from './accessible';
import {
  changePracticeConfig,
  choose,
  openBench,
  openPart,
  PLAIN_CONFIG,
  partOf,
  pick,
  setUpWith,
  simulated,
  verdictOf,
} from './bench-page';
import { expect, test } from './test';

test('a tempo is turned by keys and the wheel, and tapped in; what is no tempo is said', async ({ page }) => {
  await setUpWith(page, simulated(3));
  await page.goto('/bench/long-short-walk');
  const goal = page.getByLabel('Goal');
  await goal.fill('100');
  await goal.press('ArrowUp');
  await expect(goal).toHaveValue('101');
  await goal.press('Shift+ArrowDown');
  await expect(goal).toHaveValue('96');
  await goal.hover();
  await page.mouse.wheel(0, -120);
  await expect(goal).toHaveValue('97');
  // Who scrolls past a figure that has not the focus changes nothing.
  await page.getByRole('heading', { level: 1 }).click();
  await goal.hover();
  await page.mouse.wheel(0, -120);
  await expect(goal).toHaveValue('97');
  const tap = page.getByRole('button', { name: 'tap in the tempo that you are after' });
  for (const delay of [0, 500, 500, 500]) {
    await page.waitForTimeout(delay);
    await tap.click();
  }
  // As regular as a busy machine taps.
  await expect.poll(async () => Number(await goal.inputValue())).toBeLessThan(125);
  expect(Number(await goal.inputValue())).toBeGreaterThan(40);
  await goal.fill('a lot');
  await expect(page.getByRole('alert').filter({ hasText: /tempo/i })).toBeVisible();
});

test('a tempo is typed and turned in the unit that the player counts in, and stays the same tempo', async ({ page }) => {
  await setUpWith(page, simulated(3));
  await page.goto('/bench/five-steps');
  const goal = page.getByLabel('Goal');
  const unit = page.getByLabel('Tempo in');
  await goal.fill('96');
  await expect(unit.locator('option')).toHaveText([
    'crotchets',
    'minims',
    'dotted crotchets',
    'dotted quavers',
    'quavers',
    'semiquavers',
    'bars',
    'notes',
  ]);
  await unit.selectOption({ label: 'quavers' });
  await expect(goal).toHaveValue('192');
  await goal.press('ArrowUp');
  await expect(goal).toHaveValue('193');
  await goal.fill('200');
  await page.getByLabel('Start', { exact: true }).fill('160');
  await unit.selectOption({ label: 'dotted crotchets' });
  // Three quavers each.
  await expect(goal).toHaveValue('66.67');
  // A tempo that no click has is said in whatever unit.
  await goal.fill('2');
  await expect(page.getByRole('alert').filter({ hasText: /tempo below 10 beats/ })).toBeVisible();
  await unit.selectOption({ label: 'notes' });
  await goal.fill('400');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('tempo')).toHaveText('80');
  await expect(page.getByTestId('tempo-in-unit')).toHaveText('320 notes a minute');
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('tempo-in-unit')).toBeHidden();
  // What is kept is in beats.
  await page.goto('/bench/five-steps');
  await expect(goal).toHaveValue('400');
  await unit.selectOption({ label: 'crotchets' });
  await expect(goal).toHaveValue('100');
});

test('how it is practised is one sentence, whose parts open by a key, explain themselves and are put back', async ({
  page,
}) => {
  await setUpWith(page, simulated(3));
  await page.goto('/bench/five-steps');
  await expect(page.getByTestId('config-sentence')).toContainText('the click on every beat');
  // The notes are above the fold, and nothing else is open.
  const notes = await page
    .getByRole('img', { name: /Notation/ })
    .first()
    .boundingBox();
  expect((notes?.y ?? 0) + (notes?.height ?? 0)).toBeLessThan(800);
  await expect(page.getByRole('radio')).toHaveCount(0);
  await page.keyboard.press('t');
  await expect(page.getByRole('radiogroup', { name: 'Tempo plan' }).getByRole('radio')).toHaveCount(10);
  await expect(page.getByText('One mark up after ten clean')).toBeVisible();
  await hasNoViolations(page);
  // The keys go on from the one that is chosen.
  await page.keyboard.press('ArrowRight');
  await expect(partOf(page, 'Tempo plan')).toHaveText('notch by notch');
  await expect(partOf(page, 'Tempo plan')).toHaveAccessibleName(/changed from the usual/);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('radio')).toHaveCount(0);
  for (const part of ['Practice method', 'Click', 'Heard by']) {
    await openPart(page, part);
    await hasNoViolations(page);
  }
  // What a method makes of the notes is seen before it is chosen.
  await openPart(page, 'Practice method');
  await page.locator('label', { has: page.getByRole('radio', { name: 'Repeat each note' }) }).hover();
  await expect(page.getByTestId('method-preview')).toHaveAttribute('data-method', 'repeat-each');
  await expect(page.getByTestId('method-preview')).toContainText('Every note several times');
  await expect(partOf(page, 'Practice method')).toHaveText('straight');
  await choose(page, 'Practice method', 'Outline');
  await page.keyboard.press('Escape');
  await page.keyboard.press('u');
  await expect(partOf(page, 'Practice method')).toHaveText('straight');
  await expect(partOf(page, 'Tempo plan')).toHaveText('half-speed climb');
  await expect(page.getByRole('button', { name: 'back to the usual' })).toHaveCount(0);
});

test('what is not yet so before speed leads to what helps', async ({ page }) => {
  await setUpWith(page, simulated(3));
  await page.goto('/bench/rolling-threes');
  await page.getByText(/questions not answered/).click();
  await page.getByRole('button', { name: 'Is it relaxed at that tempo? not yet' }).click();
  await page.getByLabel('Start', { exact: true }).fill('100');
  await page.getByRole('button', { name: 'Begin slower' }).click();
  await expect(page.getByLabel('Start', { exact: true })).toHaveValue('80');
  await page.getByRole('button', { name: 'Can you clap the rhythm? not yet' }).click();
  await hasNoViolations(page);
  await page.getByRole('button', { name: 'Practise it like that' }).click();
  await expect(partOf(page, 'Practice method')).toHaveText('clap, tap or sing first');
  await page.getByRole('button', { name: 'Is the fingering, sticking or bowing settled and written in? not yet' }).click();
  await page.getByRole('link', { name: 'To its page' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Rolling threes');
});

test('the other hand is left out by choice, and the third is any rhythm that is typed', async ({ page }) => {
  await setUpWith(page, { ...simulated(3), profileId: 'struck' });
  await openBench(page, 'hands-together', 200, 120);
  await choose(page, 'Practice method', 'Long and short');
  const heads = page.getByTestId('method-preview').locator('.vf-notehead');
  const both = await heads.count();
  await page.getByRole('radiogroup', { name: 'The other voices' }).getByText('silent').click();
  await expect.poll(() => heads.count()).toBeLessThan(both);
  await choose(page, 'Practice method', 'Shared between two');
  await page.getByLabel('The third', { exact: true }).selectOption({ label: 'a rhythm of your own' });
  const typed = page.getByLabel('The third: a rhythm of your own');
  await expect(typed).toHaveValue('x.xx.x');
  await typed.fill('no');
  await expect(page.getByText('This is no rhythm yet.')).toBeVisible();
  await typed.fill('x...xx..');
  await expect(page.getByText('This is no rhythm yet.')).toBeHidden();
  await hasNoViolations(page);
  const config = async () =>
    API.practiceConfigs
      .parse(await (await page.request.get('/api/practice-configs')).json())
      .find(({ passageId }) => passageId === 'hands-together');
  await expect.poll(async () => (await config())?.methodParameters['two-voices']).toMatchObject({ third: 'x...xx..' });
  expect((await config())?.methodParameters['long-short']).toMatchObject({ others: 'silent' });
});

test('a drill among many is found by its number or name, and is the first to be played', async ({ page }) => {
  await setUpWith(page, simulated(2));
  await openBench(page, 'tidewheel-wave', 200, 180);
  await choose(page, 'Practice method', 'Add a note');
  await page.keyboard.press('Escape');
  const search = page.getByLabel('Find a drill by its number or name');
  const drills = page.getByRole('group', { name: /drills, one after the other/ }).getByRole('button');
  const all = await drills.allInnerTexts();
  expect(all.length).toBeGreaterThan(6);
  await search.fill('no such drill');
  await expect(page.getByText('No drill has that name.')).toBeVisible();
  await search.fill('7');
  await expect(drills).toHaveText([all[6] as string]);
  await page.keyboard.press('Enter');
  await expect(page.getByText(/drills, one after the other, beginning with number 7/)).toBeVisible();
  await search.fill('');
  await hasNoViolations(page);
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('drill')).toContainText(all[6] as string);
  await verdictOf(page, 0);
  await page.keyboard.press('Escape');
  await page.request.patch('/api/practice-configs/tidewheel-wave.first.whole', { data: { methodId: 'straight' } });
});

test('who is not heard sees what listens and its level, and is one key away from another input', async ({ page }) => {
  await setUpWith(page, { ...simulated(3), skill: { ...DEFAULT_SETTINGS.skill, missedShare: 1 } });
  await openBench(page, 'five-steps', 200, 180);
  await page.keyboard.press('Enter');
  expect((await verdictOf(page, 0)).outcome).toBe('not-judged');
  const panel = page.getByTestId('nothing-heard');
  await expect(panel).toContainText('Listening through: Simulated player');
  await expect(panel.getByRole('meter', { name: 'Level of the input' })).toBeVisible();
  await page.keyboard.press('h');
  await expect(page.getByRole('region', { name: 'Heard by' })).toBeVisible();
  await expect(page.getByRole('radio', { name: 'Simulated player' })).toBeChecked();
});

test('a task for the mind is silent, and its answer hidden until it is asked for', async ({ page }) => {
  await setUpWith(page, simulated(2));
  await openBench(page, 'five-steps', 200, 180);
  await choose(page, 'Practice method', 'Long run');
  await pick(page, 'Times round', '4');
  await pick(page, 'The task', 'colours');
  await page
    .getByLabel('Find a drill')
    .or(page.getByRole('button', { name: /with a task/ }))
    .first()
    .click();
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('distraction')).toHaveText(/^(red|blue|green|yellow)$/);
  await expect(page.getByText('Count how often “blue” comes.')).toBeVisible();
  await expect(page.getByText(/times blue/)).toHaveCount(0);
  await page.keyboard.press('q');
  await expect(page.getByRole('button', { name: /^Until now: \d+ times blue$/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await changePracticeConfig(page, PLAIN_CONFIG);
});

test('a tempo is taken from the curve by one press, and none is offered where nothing was played', async ({ page }) => {
  await setUpWith(page, simulated(3));
  await page.goto('/bench/tidewheel-wave');
  const edge = page.getByRole('button', { name: /^Take the tempo where it is at the edge/ });
  await expect(edge).toBeVisible();
  const easy = Number((await page.getByRole('button', { name: /^Take the tempo where it is easy/ }).innerText()).split(' ')[1]);
  await edge.click();
  const start = page.getByLabel('Start', { exact: true });
  expect(Number(await start.inputValue())).toBeGreaterThan(easy);
  // The same notes, never played.
  const { revision: _, ...passage } = await (await page.request.get('/api/passages/five-steps')).json();
  const put = await page.request.put('/api/passages/never-played?from=0', {
    data: { ...passage, id: 'never-played', revision: 1 },
  });
  expect(put.ok()).toBe(true);
  await page.goto('/bench/never-played');
  await expect(start).toBeVisible();
  await expect(page.getByRole('button', { name: /^Take the tempo where it is/ })).toHaveCount(0);
});
