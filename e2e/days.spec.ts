import { API, dayAt, dayIndex, dayInZone } from '@isochron/core/schema';
import { TEST_ZONE } from '../scripts/fixed-clock';
import { setUpWith, simulated, verdictOf } from './bench-page';
import { expect, type Page, test } from './test';

// One moment of the calendar after the other: `npm run test:days`.
const nowMs = async (page: Page): Promise<number> =>
  API.health.parse(await (await page.request.get('/api/health')).json()).nowMs;

test('on any day the demo has a plan, which is begun at one press, and what is played is of that day', async ({ page }) => {
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  await setUpWith(page, simulated(2));
  await page.goto('/');
  const today = dayInZone(TEST_ZONE, await nowMs(page));
  const shown = new Intl.DateTimeFormat('en-GB', { timeZone: 'UTC', weekday: 'long', day: 'numeric', month: 'long' });
  const names = [today, dayAt(dayIndex(today) + 1)].map((day) => shown.format(Date.parse(day)));
  // At 23:59 it may be the next day by now.
  const heading = page.getByRole('heading', { level: 1, name: 'Today' }).locator('xpath=..');
  await expect(heading).toContainText(new RegExp(names.map((name) => name.replace(',', ',?')).join('|')));
  await expect(page.getByRole('button', { name: 'Begin', exact: true })).toBeVisible();
  for (const path of ['/bench', '/material', '/ledger', '/ledger/tempo/tidewheel-wave', '/setup']) {
    await page.goto(path);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  }
  await page.goto('/bench/five-steps');
  await page.getByLabel('Goal').fill('200');
  await page.getByLabel('Start', { exact: true }).fill('120');
  await page.getByRole('heading', { level: 1 }).click();
  const before = await nowMs(page);
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await page.keyboard.press('Escape');
  await expect(page.getByText('is in the Ledger').or(page.getByText('in the Ledger')).first()).toBeVisible();
  await expect
    .poll(async () => {
      const { takes } = API.takes.parse(await (await page.request.get('/api/takes?limit=1')).json());
      return Date.parse(takes[0]?.startedAt ?? '1970-01-01T00:00:00Z') >= before - 1000;
    })
    .toBe(true);
  const { days } = API.practice.parse(
    await (await page.request.get('/api/practice', { headers: { 'Time-Zone': TEST_ZONE } })).json(),
  );
  expect([dayInZone(TEST_ZONE, before), dayAt(dayIndex(dayInZone(TEST_ZONE, before)) + 1)]).toContain(days.at(-1)?.day);
  expect(errors).toEqual([]);
});
