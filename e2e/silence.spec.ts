import { expect, test } from '@playwright/test';
import { openBench, setUpWith, verdictOf } from './bench-page';

test('a silent microphone is not judged, and the tempo stays', async ({ page }) => {
  await setUpWith(page, { input: 'microphone' });
  await openBench(page, 'in-on-the-upbeat', 200, 180);
  await page.keyboard.press('Enter');
  // A machine that is held up leaves a gap now and then: that is said, and the next repetition tells.
  for (let repetition = 0; ; repetition += 1) {
    const verdict = await verdictOf(page, repetition);
    expect(verdict).toMatchObject({ outcome: 'not-judged', nextBpm: 180 });
    if (repetition < 2 && verdict.text.includes('broke off')) continue;
    expect(verdict.text).toContain('No notes were heard');
    break;
  }
  await page.keyboard.press('Escape');
});
