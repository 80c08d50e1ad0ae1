import { DEFAULT_SETTINGS } from '@isochron/core';
import { expect, test } from '@playwright/test';
import { changePracticeConfig, newestTake, openBench, PLAIN_CONFIG, setUpWith, simulated, verdictOf } from './bench-page';

test.afterEach(async ({ page }) => changePracticeConfig(page, PLAIN_CONFIG));

test('a sweep finds where it breaks, and the work goes on under it', async ({ page }) => {
  test.setTimeout(150_000);
  await setUpWith(page, { input: 'simulated', skill: { ...DEFAULT_SETTINGS.skill, spreadMs: 3, easyUpToBpm: 190 } });
  await changePracticeConfig(page, { schoolId: 'below-the-break' });
  await openBench(page, 'five-steps', 240, 180);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('way')).toContainText('A sweep');
  await expect(page.getByTestId('tempo')).toHaveText('108–270');
  const verdict = page.locator('[data-testid=verdict][data-repetition="0"]');
  await expect(verdict).toBeVisible({ timeout: 90_000 });
  await expect(verdict).toContainText('Evenness broke at about');
  await expect(page.getByTestId('way')).toHaveCount(0);
  const worksAt = Number(await page.getByTestId('tempo').innerText());
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  const take = await newestTake(page);
  const broke = take?.repetitions[0]?.measures.breakBpm;
  expect(take?.drills.map(({ way }) => way)).toEqual([undefined, 'sweep']);
  expect(broke?.value).toBeGreaterThan(175);
  expect(broke?.value).toBeLessThan(215);
  expect(worksAt).toBe(Math.round(0.97 * (broke?.value ?? 0)));
});

test('a tempo that will not come clean makes the loop pause, with drills for the widest step by one key', async ({ page }) => {
  await setUpWith(page, simulated(24));
  await openBench(page, 'five-steps', 300, 200);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('phase')).toHaveText('A moment to think', { timeout: 60_000 });
  await expect(page.getByRole('list', { name: 'Questions worth asking' })).toContainText('Is it that one?');
  await expect(page.getByRole('button', { name: 'Practise this (D)' })).toBeVisible();
  await page.keyboard.press('d');
  await expect(page.getByLabel('Practice method')).not.toHaveValue('straight', { timeout: 20_000 });
});

test('a minimum before a raise is kept to', async ({ page }) => {
  await setUpWith(page, simulated(2));
  await openBench(page, 'five-steps', 200, 170);
  await page.getByLabel('Before any raise').selectOption('2');
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
  await expect(page.getByTestId('ended')).toHaveText('The goal is clean.', { timeout: 60_000 });
});
