import { openBench, pick, setUpWith, simulated, verdictOf } from './bench-page';
import { expect, test } from './test';

test('notation that cannot be drawn is said and reported; the take goes on, and so does Stop', async ({ page }) => {
  await page.route('**/assets/Notation-*.js', (route) => route.abort());
  const reported = page.waitForRequest((request) => request.url().endsWith('/api/faults'));
  await setUpWith(page, simulated(3));
  await openBench(page, 'five-steps', 200, 160);
  await expect(page.getByText('The notation could not be drawn.').first()).toBeVisible();
  expect((await reported).postDataJSON().details).toContain('Notation');
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
});

test('settings that come late are not changed before they are there', async ({ page }) => {
  let answer = () => {};
  const wait = new Promise<void>((resolve) => {
    answer = resolve;
  });
  await page.route('**/api/settings', async (route) => {
    if (route.request().method() === 'GET') await wait;
    await route.continue();
  });
  await page.goto('/setup/look');
  const names = page.getByRole('radiogroup', { name: 'Note names' }).getByRole('radio');
  await expect(names.first()).toBeDisabled();
  answer();
  await pick(page, 'Note names', 'american');
  await page.reload();
  await expect(page.getByRole('radio', { name: /^quarter/ })).toBeChecked();
});

test('an error with a sentence is no fault: nothing is reported', async ({ page }) => {
  await setUpWith(page, { noteNaming: 'british' });
  const reports: string[] = [];
  page.on('request', (request) => request.url().endsWith('/api/faults') && reports.push(request.url()));
  await page.route('**/api/settings', (route) =>
    route.request().method() === 'PATCH'
      ? route.fulfill({ status: 507, json: { message: 'The disk is full. Free some space.' } })
      : route.continue(),
  );
  await page.goto('/setup/look');
  await page.getByRole('radio', { name: /^quarter/ }).click();
  await expect(page.getByText('The disk is full. Free some space.').first()).toBeVisible();
  expect(reports).toEqual([]);
});

test('a fault of the program is no advice: it is reported, with its details to copy', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.goto('/');
  await page.evaluate(() => setTimeout(() => (undefined as unknown as { gone: string }).gone));
  await expect(page.getByText('Something went wrong in Isochron.')).toBeVisible();
  await expect(page.getByText('Cannot read properties')).toHaveCount(0);
  await page.getByRole('button', { name: 'Copy details' }).click();
  const details = await page.evaluate(() => navigator.clipboard.readText());
  expect(details).toMatch(/^TypeError: Cannot read/);
  expect(details).toMatch(/\nat \/, Mozilla/);
});
