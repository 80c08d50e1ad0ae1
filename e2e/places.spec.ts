import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, type Page, test } from '@playwright/test';
import { openBench, setUpWith, simulated, verdictOf } from './bench-page';

const PLACES = ['/', '/bench/five-steps', '/material', '/ledger', '/setup', '/no-such-place'];

const expectAccessible = async (page: Page) => {
  // Colours that are still fading over are not yet what the player reads.
  await page.waitForFunction(() => document.getAnimations().every((animation) => animation.playState !== 'running'));
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`)).toEqual([]);
};

for (const appearance of ['paper', 'ink'] as const) {
  test(`every place is accessible on ${appearance}`, async ({ page }) => {
    await setUpWith(page, { appearance });
    for (const place of PLACES) {
      await page.goto(place);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await expectAccessible(page);
    }
    await page.goto('/ledger');
    await page.getByRole('table').getByRole('link').first().click();
    await expect(page.getByRole('heading', { name: 'Every repetition' })).toBeVisible();
    await expectAccessible(page);
  });
}

test('the running Bench is accessible, and its tempo and verdict are readable from two metres', async ({ page }) => {
  await setUpWith(page, simulated(4));
  await openBench(page, 'five-steps', 200, 150);
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await expectAccessible(page);
  const sizeOf = (selector: string) =>
    page
      .locator(selector)
      .first()
      .evaluate((element) => Number.parseFloat(getComputedStyle(element).fontSize));
  expect(await sizeOf('[data-testid=tempo]')).toBeGreaterThanOrEqual(64);
  expect(await sizeOf('[data-testid=verdict] p')).toBeGreaterThanOrEqual(64);
  await page.keyboard.press('Escape');
  await expectAccessible(page);
});

test('the keyboard alone leads from Today to a running take and back', async ({ page }) => {
  await setUpWith(page, simulated(4));
  await page.goto('/');
  const begin = page.getByRole('button', { name: 'Begin' });
  await expect(begin).toBeVisible();
  for (let k = 0; k < 20 && !(await begin.evaluate((element) => element === document.activeElement)); k += 1) {
    await page.keyboard.press('Tab');
  }
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/bench\//);
  await expect(page.getByLabel('Goal')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('phase')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('ended')).toBeVisible();
});

test('the strip tells each note to the keyboard', async ({ page }) => {
  await page.goto('/ledger');
  await page.getByRole('table').getByRole('link').first().click();
  const first = page.locator('[data-stroke]').first();
  await expect(first).toBeVisible();
  await first.focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.locator(':focus')).toHaveAttribute('aria-label', /^Note 2 at \d+(\.\d)?: (\d+\.\d ms (early|late)|missed)/);
});

test('a tempo of 0 or 10 000 is explained and not taken', async ({ page }) => {
  await setUpWith(page, simulated(4));
  await page.goto('/bench/five-steps');
  for (const [value, message] of [
    ['0', 'Choose 10 or more'],
    ['10000', 'Choose 400 or less'],
    ['fast', 'A tempo is a number'],
  ] as const) {
    await page.getByLabel('Goal').fill(value);
    await expect(page.getByRole('alert')).toContainText(message);
  }
});

test('settings are kept, and note names follow them', async ({ page }) => {
  await setUpWith(page, {});
  await page.goto('/setup');
  await page.getByLabel('Note names').selectOption('american');
  await page.getByLabel('Window around each note').selectOption('polished');
  await page.goto('/bench/five-steps');
  await expect(page.getByText('quarters a minute')).toBeVisible();
  await page.goto('/setup');
  await expect(page.getByLabel('Window around each note')).toHaveValue('polished');
});

test('without its server, the interface says so', async ({ page }) => {
  await page.goto('/');
  await page.route('**/api/**', (route) => route.abort());
  await page.reload();
  await expect(page.getByRole('alert')).toContainText('server does not answer');
});

test('nothing is fetched from elsewhere', async ({ page }) => {
  const foreign: string[] = [];
  page.on('request', (request) => {
    if (!/^(http:\/\/localhost:|data:|blob:)/.test(request.url())) foreign.push(request.url());
  });
  for (const place of PLACES) await page.goto(place, { waitUntil: 'networkidle' });
  expect(foreign).toEqual([]);
});

test('the click in the audio thread starts on the very sample: jitter 0', async ({ page }) => {
  const assets = readdirSync(join(import.meta.dirname, '..', 'web', 'dist', 'assets'));
  const worklet = `/assets/${assets.find((name) => name.startsWith('player.worklet'))}`;
  await page.goto('/');
  const errors = await page.evaluate(async (address) => {
    const rate = 48_000;
    const frames = Array.from({ length: 40 }, (_, k) => Math.round((0.5 + k * (60 / 97.3)) * rate));
    const context = new OfflineAudioContext(1, (frames.at(-1) ?? 0) + rate, rate);
    await context.audioWorklet.addModule(address);
    const node = new AudioWorkletNode(context, 'sound-player', { numberOfInputs: 0, outputChannelCount: [1] });
    node.connect(context.destination);
    node.port.postMessage({ type: 'play', sounds: frames.map((frame) => ({ frame, samples: Float32Array.of(1, 0.5, 0.25) })) });
    // The message crosses to the audio thread while the rendering waits.
    void context.suspend(0.1).then(() => setTimeout(() => context.resume(), 300));
    const sound = (await context.startRendering()).getChannelData(0);
    const starts: number[] = [];
    sound.forEach((value, n) => {
      if (value === 1) starts.push(n);
    });
    return frames.map((frame, k) => (starts[k] ?? Number.NaN) - frame);
  }, worklet);
  expect(errors).toEqual(errors.map(() => 0));
});
