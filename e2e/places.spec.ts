import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { API } from '@isochron/core/schema';
import { hasNoViolations } from './accessible';
import { choose, openBench, pick, picked, setUpWith, simulated, verdictOf } from './bench-page';
import { expect, test } from './test';

const PLACES = [
  '/',
  '/first-day',
  '/bench/five-steps',
  '/click',
  '/material',
  '/material/tidewheel-wave',
  '/material/patterns',
  '/material/record',
  '/material/along',
  '/ledger',
  '/setup',
  '/no-such-place',
];

test('every place is accessible on paper, and its colours on ink too', async ({ page }) => {
  await setUpWith(page, { appearance: 'system' });
  const isAccessible = async () => {
    await page.emulateMedia({ colorScheme: 'light' });
    await hasNoViolations(page);
    await page.emulateMedia({ colorScheme: 'dark' });
    await expect(page.locator('html.dark')).toHaveCount(1);
    await hasNoViolations(page, ['color-contrast']);
  };
  for (const place of PLACES) {
    await page.goto(place);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await isAccessible();
  }
  await page.goto('/ledger');
  await page.getByRole('table').getByRole('link').first().click();
  await expect(page.getByRole('heading', { name: 'Every repetition' })).toBeVisible();
  await isAccessible();
});

test('the running Bench is accessible, and its tempo and verdict are readable from two metres', async ({ page }) => {
  await setUpWith(page, simulated(4));
  await openBench(page, 'five-steps', 200, 150);
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await hasNoViolations(page);
  const sizeOf = (selector: string) =>
    page
      .locator(selector)
      .first()
      .evaluate((element) => Number.parseFloat(getComputedStyle(element).fontSize));
  expect(await sizeOf('[data-testid=tempo]')).toBeGreaterThanOrEqual(64);
  expect(await sizeOf('[data-testid=verdict] p')).toBeGreaterThanOrEqual(64);
  await page.keyboard.press('Escape');
  await hasNoViolations(page);
});

test('the keyboard alone leads from Today to a running take and back', async ({ page }) => {
  await setUpWith(page, simulated(4));
  await page.goto('/');
  const begin = page.getByRole('button', { name: 'Begin', exact: true });
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
  await page.goto('/setup/look');
  await pick(page, 'Note names', 'american');
  await page.getByRole('link', { name: 'Tolerance' }).click();
  await pick(page, 'Window around each note', 'polished');
  await page.goto('/bench/five-steps');
  await expect(page.getByLabel('Tempo in').locator('option').first()).toHaveText('quarters');
  await page.goto('/setup/tolerance');
  await expect.poll(() => picked(page, 'Window around each note')).toBe('polished');
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

const WIDTHS = [360, 390, 768, 820, 1280];

test('from 360 to 1280 px nothing scrolls sideways, and a take is played and stopped by touch', async ({ page }) => {
  await setUpWith(page, simulated(4));
  const isWithin = async (what: string) => {
    for (const width of WIDTHS) {
      await page.setViewportSize({ width, height: 800 });
      await page.waitForTimeout(120);
      const [own, shown] = await page.evaluate(() => [document.documentElement.scrollWidth, window.innerWidth]);
      expect(own, `${what} at ${width} px`).toBeLessThanOrEqual(shown as number);
    }
  };
  const { takes } = API.takes.parse(await (await page.request.get('/api/takes?passageId=tidewheel-wave&limit=5')).json());
  const [one, other] = takes.map(({ id }) => id);
  const places = [
    '/ledger/measure-a-file',
    '/ledger/tempo/tidewheel-wave',
    `/ledger/${one}`,
    `/ledger/${one}/beside?with=${other}`,
  ];
  for (const place of [...PLACES, ...places]) {
    await page.goto(place);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await page.waitForLoadState('networkidle');
    await isWithin(place);
  }
  await openBench(page, 'in-on-the-upbeat', 200, 160);
  await page.setViewportSize({ width: 390, height: 800 });
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await verdictOf(page, 0);
  // Tempo, verdict and strip come first.
  const topOf = async (selector: string) => (await page.locator(selector).first().boundingBox())?.y ?? 0;
  expect(await topOf('[data-testid=strip]')).toBeLessThan(await topOf('[data-testid=figures]'));
  expect(await topOf('[data-testid=strip]')).toBeLessThan(700);
  await isWithin('the running Bench');
  await page.setViewportSize({ width: 390, height: 800 });
  await page.getByRole('button', { name: '3 tense' }).click();
  await expect(page.getByTestId('verdict')).toContainText('That felt tense');
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByTestId('ended')).toBeVisible();
  await isWithin('after a take');
});

test('in the demo the first begin works without an instrument, and the microphone is one choice away', async ({ page }) => {
  // What the demo sets up by itself: the input only.
  await setUpWith(page, { input: 'simulated' });
  await page.goto('/');
  await expect(page.getByText('Begin works without an instrument')).toBeVisible();
  await page.getByRole('list', { name: 'Today’s blocks' }).getByRole('link').first().click();
  await expect(page.getByText('The simulated player plays for you')).toBeVisible();
  await choose(page, 'Heard by', 'Microphone');
  await page.getByRole('button', { name: 'Check the input' }).click();
  // The browser's stand-in for a microphone beeps.
  await expect(page.getByRole('meter', { name: 'Level of the input' })).toHaveAttribute(
    'aria-valuetext',
    /dB|too loud|nothing/,
  );
  await page.getByRole('button', { name: 'Stop listening' }).click();
  await expect(page.getByRole('meter')).toHaveCount(0);
  await choose(page, 'Heard by', 'Tap pad');
  await page.getByRole('button', { name: 'Check the input' }).click();
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Space');
  await expect(page.getByText('1 heard')).toBeVisible();
});
