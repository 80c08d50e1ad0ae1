import { hasNoViolations } from './accessible';
import { setUpWith, simulated } from './bench-page';
import { expect, type Page, test } from './test';

/** What every part is called, as its contents list says. */
const partsOf = async (page: Page): Promise<string[]> => {
  const links = page.getByRole('navigation', { name: 'Parts of Setup' }).getByRole('link');
  await expect(links.first()).toBeVisible();
  return links.allInnerTexts();
};

test('each part of Setup is one screen, accessible, and every field of it is found by its name', async ({ page }) => {
  await setUpWith(page, { ...simulated(5), speaks: true });
  await page.goto('/setup');
  const parts = await partsOf(page);
  expect(parts.length).toBeGreaterThan(10);
  const search = page.getByLabel('Find a setting');
  for (const part of parts) {
    await page.getByRole('link', { name: part, exact: true }).click();
    const shown = page.locator('section').filter({ has: page.getByRole('heading', { name: part, level: 2, exact: true }) });
    await expect(shown).toBeVisible();
    for (const folded of await shown.locator('summary').all()) await folded.click();
    await expect(page.getByRole('link', { name: part, exact: true })).toBeInViewport();
    const { bottom } = await shown.evaluate((one) => one.getBoundingClientRect());
    expect(bottom, part).toBeLessThan(800);
    await hasNoViolations(page);
    const fields = await shown.locator('label:not([role=radiogroup] label), [role=radiogroup]').evaluateAll((all) =>
      all.map((one) => {
        const name = one.getAttribute('aria-labelledby');
        const text = (name ? document.getElementById(name) : one)?.textContent ?? '';
        return text.replace(/ \((ms|%|% of tempo|0 to 100)\)$/, '').trim();
      }),
    );
    for (const field of fields) {
      // The days of the week are one field, by what they share.
      if (/day$/.test(field)) continue;
      await search.fill(field);
      await expect(page.getByRole('navigation', { name: 'Parts of Setup' }), field).toContainText(part);
    }
    await search.fill('');
  }
});

test('a setting is looked for by keys alone, and what is called nothing is said', async ({ page }) => {
  await page.goto('/setup');
  await page.getByLabel('Find a setting').fill('dark');
  await expect(page.getByRole('navigation', { name: 'Parts of Setup' }).getByRole('link')).toHaveText([
    'Words and lookDark, light',
  ]);
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/setup\/look$/);
  await expect(page.getByRole('radiogroup', { name: 'Appearance' })).toBeVisible();
  await page.getByLabel('Find a setting').fill('no such thing');
  await expect(page.getByText('Nothing in Setup has that name.')).toBeVisible();
});

test('Setup is of use on a phone: the contents stand above the part', async ({ page }) => {
  await page.setViewportSize({ width: 360, height: 740 });
  await page.goto('/setup');
  for (const part of await partsOf(page)) {
    await page.getByRole('link', { name: part, exact: true }).click();
    await expect(page.getByRole('heading', { name: part, level: 2, exact: true })).toBeVisible();
    const { width, height } = await page.evaluate(() => ({
      width: document.documentElement.scrollWidth,
      height: document.documentElement.scrollHeight,
    }));
    expect(width, part).toBeLessThanOrEqual(360);
    expect(height, part).toBeLessThan(6 * 740);
  }
});
