import { hasNoViolations } from './accessible';
import { pick, setUpWith } from './bench-page';
import { playFor } from './driven-clock';
import { expect, test } from './test';

test('a click runs by itself, follows the tempo from the next bar on, and stops with a bell', async ({ page }) => {
  // What is handed to the sound is written down: how many sounds, and of what they are.
  await page.addInitScript(() => {
    const sent: number[] = [];
    Object.assign(window, { sentSounds: sent });
    const { postMessage } = MessagePort.prototype;
    MessagePort.prototype.postMessage = function (
      this: MessagePort,
      message: { type?: string; sounds?: unknown[] },
      ...rest: never[]
    ) {
      if (message?.type === 'play' && message.sounds) sent.push(message.sounds.length);
      return (postMessage as (...all: unknown[]) => void).call(this, message, ...rest);
    } as typeof postMessage;
  });
  const sounds = () => page.evaluate(() => (window as unknown as { sentSounds: number[] }).sentSounds.splice(0));
  await setUpWith(page, {});
  await page.goto('/bench/five-steps');
  await page.getByRole('link', { name: 'Only a click' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Plain click');
  await hasNoViolations(page);
  await page.getByLabel('Tempo', { exact: true }).fill('120');
  await pick(page, 'Beats in a bar', '3');
  await pick(page, 'A bell, and it stops', '1');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await playFor(page, 6);
  const first = await sounds();
  expect(new Set(first)).toEqual(new Set([3]));
  expect(first.length).toBeGreaterThan(2);
  await expect(page.getByTestId('place')).toContainText(/^bar \d+ · 0:5\d left$/);
  // Twice as slow, and between the beats: from the next bar on.
  await page.getByLabel('Tempo', { exact: true }).fill('60');
  await page.getByRole('radio', { name: 'on the first of each bar' }).click();
  await playFor(page, 6);
  expect((await sounds()).slice(1)).toEqual(expect.arrayContaining([1]));
  await playFor(page, 52);
  await expect(page.getByRole('button', { name: 'Start', exact: true })).toBeVisible();
  // The bell is two tones.
  expect((await sounds()).at(-1)).toBe(2);
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Start', exact: true })).toBeVisible();
  for (const width of [360, 820]) {
    await page.setViewportSize({ width, height: 740 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
  }
});
