import { hasNoViolations } from './accessible';
import { choose, openPart, partOf, setUpWith, simulated } from './bench-page';
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
  await expect(page.getByRole('region', { name: 'Tempo plan' }).getByRole('radio')).toHaveCount(10);
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
