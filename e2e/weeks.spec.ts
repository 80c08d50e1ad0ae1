import { readFile } from 'node:fs/promises';
import { API } from '@isochron/core/schema';
import { hasNoViolations } from './accessible';
import { pick, setUpWith, simulated, verdictOf } from './bench-page';
import { expect, type Page, test } from './test';

const blocks = (page: Page) => page.getByRole('list', { name: 'Today’s blocks' }).getByRole('listitem');
const titles = (page: Page) => blocks(page).getByRole('link').allInnerTexts();
const takesOf = async (page: Page, passageId: string) =>
  API.takes.parse(await (await page.request.get(`/api/takes?passageId=${passageId}&limit=5`)).json()).takes;

test('today’s plan has its reasons, is changed by keys and by hand, stays so, and is planned anew', async ({ page }) => {
  await setUpWith(page, simulated(4));
  await page.goto('/');
  await expect(blocks(page).first()).toBeVisible();
  await expect(blocks(page).first()).toHaveAttribute('data-kind', 'warm-up');
  await expect(page.getByTestId('plan-why')).toContainText(/% of the time was slow, of 75 %/);
  const before = await titles(page);
  expect(before.length).toBeGreaterThan(3);
  // By keys: one down, a minute more, and left out.
  await blocks(page).first().getByRole('link').focus();
  await page.keyboard.press('Alt+ArrowDown');
  await expect.poll(async () => (await titles(page)).slice(0, 2)).toEqual([before[1], before[0]]);
  const minutes = async (place: number) => Number.parseInt(await blocks(page).nth(place).innerText(), 10);
  const length = await minutes(1);
  await blocks(page).nth(1).getByRole('link').focus();
  await page.keyboard.press('+');
  await expect.poll(() => minutes(1)).toBe(length + 1);
  await page.keyboard.press('Delete');
  await expect.poll(() => titles(page)).toEqual([before[1], ...before.slice(2)]);
  // By the grip: taken up with Space, moved, put down.
  await blocks(page)
    .first()
    .getByRole('button', { name: /^Move / })
    .focus();
  await page.keyboard.press('Space');
  await page.waitForTimeout(300);
  await page.keyboard.press('ArrowDown');
  await page.waitForTimeout(300);
  await page.keyboard.press('Space');
  await expect.poll(() => titles(page)).toEqual([before[2], before[1], ...before.slice(3)]);
  await pick(page, 'Add', 'five-steps');
  expect((await titles(page)).at(-1)).toBe('Five steps and back');
  // Another passage in the place of one, as long as that was.
  await page
    .getByLabel(/^Swap .* for$/)
    .first()
    .selectOption({ label: 'Hands together' });
  expect((await titles(page))[0]).toBe('Hands together');
  const changed = await titles(page);
  await page.reload();
  await expect.poll(() => titles(page)).toEqual(changed);
  await pick(page, 'Time today', '10');
  await expect(page.getByTestId('plan-why')).toContainText('10 minutes, by your own choice.');
  await page.getByRole('button', { name: 'Plan again' }).click();
  await expect.poll(() => titles(page)).toEqual(before);
  await hasNoViolations(page);
});

test('a block is dragged to another place', async ({ page }) => {
  await page.goto('/');
  await expect(blocks(page).first()).toBeVisible();
  const before = await titles(page);
  const grip = blocks(page)
    .first()
    .getByRole('button', { name: /^Move / });
  const [from, to] = [await grip.boundingBox(), await blocks(page).nth(2).boundingBox()];
  if (!from || !to) throw new Error('nothing to drag');
  await page.mouse.move(from.x + 8, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x + 8, from.y + 30, { steps: 4 });
  await page.mouse.move(from.x + 8, to.y + to.height / 2 + 10, { steps: 8 });
  await page.mouse.up();
  await expect.poll(() => titles(page)).toEqual([before[1], before[2], before[0], ...before.slice(3)]);
});

test('a warm-up runs slowly, with no strategy, and leaves tomorrow’s start alone', async ({ page }) => {
  await setUpWith(page, simulated(3));
  await page.goto('/');
  const first = blocks(page).first();
  const passageId = /bench\/([^?]+)/.exec((await first.getByRole('link').getAttribute('href')) ?? '')?.[1] ?? '';
  const bpm = Number(/at (\d+)/.exec(await first.innerText())?.[1]);
  const practiceConfigOf = async () =>
    API.practiceConfigs
      .parse(await (await page.request.get('/api/practice-configs')).json())
      .find((one) => one.passageId === passageId);
  const before = await practiceConfigOf();
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await expect(page.getByLabel('Start', { exact: true })).toHaveValue(String(bpm));
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await expect(page.getByTestId('tempo')).toHaveText(String(bpm));
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('ended')).toBeVisible();
  await expect.poll(async () => (await takesOf(page, passageId))[0]?.purpose).toBe('warm-up');
  const after = await practiceConfigOf();
  expect(after?.last).toEqual(before?.last);
  expect(after?.others['warm-up']?.last.summary).toBeTruthy();
});

test('plan and week go out as calendars', async ({ page }) => {
  await page.goto('/');
  await expect(blocks(page).first()).toBeVisible();
  const [day] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'As a calendar file' }).click(),
  ]);
  const text = await readFile(await day.path(), 'utf8');
  expect(text.match(/BEGIN:VEVENT/g)).toHaveLength(await blocks(page).count());
  await page.goto('/setup/days');
  const [week] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'The week as a calendar file' }).click(),
  ]);
  expect(await readFile(await week.path(), 'utf8')).toContain('RRULE:FREQ=WEEKLY');
  await pick(page, 'Of the time, slow', '80');
  await pick(page, 'Order of the blocks', 'mixed');
  await expect
    .poll(async () => API.settings.parse(await (await page.request.get('/api/settings')).json()).plan)
    .toMatchObject({ slowPct: 80, order: 'mixed' });
  await page.goto('/');
  await page.getByRole('button', { name: 'Plan again' }).click();
  await expect(page.getByTestId('plan-why')).toContainText('Passages take turns');
  await setUpWith(page, {});
});

test('a passage over weeks: its goal as a range, what changed, minutes', async ({ page }) => {
  await page.goto('/ledger/tempo/tidewheel-wave');
  await expect(page.getByTestId('goal-range')).toContainText(/^(Between|Not before) /);
  await expect(page.getByTestId('changed')).toContainText('The best clean tempo rose by about');
  await expect(page.getByTestId('passage-totals')).toContainText(/\d+ repetitions, \d+ of them clean; \d+ min/);
  await page.getByLabel('A day that you have in mind').fill('2040-01-01');
  await expect(page.getByTestId('goal-range')).toContainText('lies after that');
  await page.getByLabel('From', { exact: true }).fill('2020-01-01');
  await expect(page.getByTestId('changed')).toContainText('Too little to tell');
  await expect(page.getByRole('img', { name: /Minutes a week/ })).toBeVisible();
  // Its tempos over time: they rose in the ten weeks, and the spread at one tempo fell.
  const tempos = page.getByRole('img', { name: /^Tempos from / });
  await expect(tempos).toHaveAttribute('aria-label', /edge \d+, then \d+/);
  const [, from = '', to = ''] = /edge (\d+), then (\d+)/.exec((await tempos.getAttribute('aria-label')) ?? '') ?? [];
  expect(Number(to)).toBeGreaterThan(Number(from) + 15);
  const spread = (await page.getByRole('img', { name: /^Spread at / }).getAttribute('aria-label')) ?? '';
  const [, wide = '', narrow = ''] = /spread ([\d.]+) ms, then ([\d.]+) ms/.exec(spread) ?? [];
  expect(Number(narrow)).toBeLessThan(Number(wide));
  await pick(page, 'Shown', { label: 'three months' });
  await page.getByRole('button', { name: 'Earlier' }).click();
  await page.getByRole('button', { name: 'Earlier' }).click();
  await expect(page.getByTestId('progress-words')).toContainText('Too little from');
  await hasNoViolations(page);
});

test('a note on a take is kept and found again', async ({ page }) => {
  const [take] = await takesOf(page, 'rolling-threes');
  await page.goto(`/ledger/${take?.id}`);
  await page.getByLabel('Your note on this take').fill('Thumb under earlier: 100 % easier_');
  await expect.poll(async () => (await takesOf(page, 'rolling-threes'))[0]?.note).toBe('Thumb under earlier: 100 % easier_');
  await page.goto('/ledger');
  await page.getByLabel('Search all takes').fill('100 % easier_');
  await expect(page.getByRole('heading', { name: '1 take with “100 % easier_”' })).toBeVisible();
  await expect(page.getByRole('table')).toContainText('Rolling threes');
  await page.getByLabel('Search all takes').fill('no such words');
  await expect(page.getByText('No take of this kind yet.')).toBeVisible();
  await page.getByLabel('Search all takes').fill('');
  await pick(page, 'Show', 'noted', true);
  await expect(page.getByTestId('totals')).toContainText(/minutes from downbeat to downbeat/);
  await hasNoViolations(page);
});

test('last Tuesday is two presses away: its takes, how much, and what was off most often', async ({ page }) => {
  await setUpWith(page, { dates: 'day-first' });
  await page.goto('/ledger');
  await page.getByRole('link', { name: 'Day by day' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^Wednesday,? 25 November 2026$/);
  await page.getByRole('navigation', { name: 'Days' }).getByRole('link', { name: /Tue/ }).last().click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^Tuesday,? 24 November 2026$/);
  const takes = API.takes.parse(
    await (await page.request.get('/api/takes?from=2026-11-24&to=2026-11-24&limit=200')).json(),
  ).takes;
  expect(takes.length).toBeGreaterThan(1);
  await expect(page.getByRole('heading', { name: `${takes.length} takes` })).toBeVisible();
  const played = takes.reduce((sum, { playedS }) => sum + playedS, 0);
  await expect(
    page
      .getByRole('row', { name: /^This day/ })
      .getByRole('cell')
      .nth(1),
  ).toHaveText(String(Math.round(played / 60)));
  await expect(page.getByRole('link', { name: /^Tue 24|^24 Tue/ })).toContainText(`${Math.round(played / 60)} min`);
  await expect(page.getByTestId('often-weak')).toContainText(/^Off most often in these thirty days: .*, note \d+ to \d+/);
  await hasNoViolations(page);
  // By keys, a day and a week on; never beyond today.
  await page.keyboard.press('ArrowRight');
  await expect(page).toHaveURL(/2026-11-25$/);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowUp');
  await expect(page).toHaveURL(/2026-11-18$/);
  await page.goto('/ledger/day/2026-11-22');
  await expect(page.getByText('Nothing was played on this day.')).toBeVisible();
  for (const width of [360, 820]) {
    await page.setViewportSize({ width, height: 740 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
  }
});

test('two takes lie strip against strip and are heard in turn at the same note', async ({ page }) => {
  await setUpWith(page, { dates: 'day-first' });
  const takes = (await takesOf(page, 'tidewheel-wave')).filter(({ hasRecording }) => hasRecording);
  await page.goto(`/ledger/${takes[0]?.id}`);
  await page.getByRole('link', { name: 'Beside another take' }).click();
  await pick(page, 'Beside it', takes[1]?.id ?? '');
  await expect(page.getByTestId('strip')).toHaveCount(1);
  // Row against row, the two takes by turns, on one screen.
  const rows = page.getByTestId('strip').locator('[data-repetition]');
  const days = [takes[0], takes[1]].map((take) => new Date(take?.startedAt ?? '').getDate());
  await expect.poll(() => rows.count()).toBeGreaterThan(3);
  for (const [k, row] of (await rows.allTextContents()).entries()) expect(row).toContain(`${days[k % 2]} Nov`);
  await expect(rows.last()).toBeInViewport();
  const playing = () => page.locator('audio').evaluateAll((all) => all.map((one) => !(one as HTMLAudioElement).paused));
  await page.getByTestId('strip').first().locator('[data-stroke]').nth(4).click();
  await expect.poll(playing).toEqual([true, false]);
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('t');
  await expect.poll(playing).toEqual([false, true]);
  await page.keyboard.press('p');
  await expect.poll(playing).toEqual([false, false]);
  await hasNoViolations(page);
});

test('a log kept by hand is read in once, and says what it could not read', async ({ page }) => {
  await setUpWith(page, { dates: 'day-first' });
  await page.goto('/ledger');
  await pick(page, 'Passage', 'hands-together');
  const log = {
    name: 'log.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('date,tempo,notes\n02/03/2021,60,first day\n31/02/2021,62,\n09/03/2021,66,\n'),
  };
  await page.getByLabel('A log as CSV').setInputFiles(log);
  await expect(page.getByTestId('taken-out')).toHaveText(
    '2 days are in the Ledger of Hands together now. Not read: line 3: “31/02/2021” is not a day.',
  );
  await page.getByLabel('A log as CSV').setInputFiles(log);
  await expect(page.getByTestId('taken-out')).toContainText(
    '0 days are in the Ledger of Hands together now. 2 were there already.',
  );
  await page.getByLabel('Search all takes').fill('first day');
  // The list is there before what was searched for is.
  const found = page.getByRole('table').getByRole('link');
  await expect(found).toHaveCount(1);
  await found.click();
  await expect(page.getByText('heard by your own log')).toBeVisible();
  await page.goto('/ledger');
  const [csv] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'All days as CSV' }).click(),
  ]);
  expect(await readFile(await csv.path(), 'utf8')).toContain('2021-03-02,Hands together,');
  const [text] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'The notebook as text' }).click(),
  ]);
  expect(await readFile(await text.path(), 'utf8')).toContain('Bar 1');
});

test('on paper: one page each for the plan, a passage’s month and a take, in black on white', async ({ page }) => {
  await setUpWith(page, { appearance: 'ink' });
  const [take] = await takesOf(page, 'tidewheel-wave');
  for (const [address, ready] of [
    ['/', 'plan-why'],
    ['/ledger/tempo/tidewheel-wave', 'curve-words'],
    [`/ledger/${take?.id}`, 'strip'],
  ] as const) {
    await page.goto(address);
    await expect(page.getByTestId(ready).first()).toBeVisible();
    await page.waitForTimeout(1500);
    const pdf = await page.pdf({ format: 'A4' });
    expect(pdf.toString('latin1').match(/\/Type \/Page\b/g), address).toHaveLength(1);
    await page.emulateMedia({ media: 'print' });
    expect(await page.evaluate(() => getComputedStyle(document.body).color)).toBe('rgb(0, 0, 0)');
    await page.emulateMedia({ media: null });
  }
  await setUpWith(page, {});
});
