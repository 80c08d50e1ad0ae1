import { expect, test } from '@playwright/test';
import { openBench, setUpWith, verdictOf } from './bench-page';

test('a silent microphone is not judged, and the tempo stays', async ({ page }) => {
  await setUpWith(page, { input: 'microphone' });
  await openBench(page, 'in-on-the-upbeat', 200, 180);
  await page.keyboard.press('Enter');
  const verdict = await verdictOf(page, 0);
  expect(verdict).toMatchObject({ outcome: 'not-judged', nextBpm: 180 });
  expect(verdict.text).toContain('No notes were heard');
  await page.keyboard.press('Escape');
});
