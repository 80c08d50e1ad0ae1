import { API } from '@isochron/core/schema';
import { newestTake, openBench, setUpWith, simulated, verdictOf } from './bench-page';
import { expect, type Page, test } from './test';

/** The browser has no room left for this page: whatever it is to keep is refused, on the page and in its workers. */
const withoutRoom = async (page: Page, quotaSize: number): Promise<void> => {
  const session = await page.context().newCDPSession(page);
  await session.send('Storage.overrideQuotaForOrigin', { origin: new URL(page.url()).origin, quotaSize });
};

test('a browser that keeps nothing sends the take straight to the server, says so, and keeps saying it', async ({ page }) => {
  await setUpWith(page, simulated(3));
  await openBench(page, 'five-steps', 200, 160);
  await withoutRoom(page, 1);
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await expect(page.getByText(/The browser does not keep this (take|recording)/)).toBeVisible();
  await verdictOf(page, 1);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  await expect(page.getByRole('status')).toContainText('The browser did not keep the last take');
  const take = await newestTake(page);
  expect(take?.repetitions).toHaveLength(2);
  expect(take?.hasRecording).toBe(true);
  const wav = await page.request.get(`/api/takes/${take?.id}/recording`);
  expect((await wav.body()).length).toBeGreaterThan((take?.repetitions[1]?.downbeatS ?? 0) * 44_100 * 2);
  // With room again, the next take is kept as ever and the sentence is gone.
  await withoutRoom(page, 1e9);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await expect(page.getByText('The browser did not keep')).toHaveCount(0);
  await page.keyboard.press('Escape');
});

test('a measuring part that dies is said; the take is kept, and the next one begins without a reload', async ({ page }) => {
  await page.addInitScript(() => {
    const opened: Worker[] = [];
    const Native = window.Worker;
    window.Worker = class extends Native {
      constructor(address: string | URL, options?: WorkerOptions) {
        super(address, options);
        opened.push(this);
      }
    };
    window.addEventListener('kill-workers', () => {
      for (const worker of opened) worker.terminate();
    });
  });
  await setUpWith(page, simulated(3));
  await openBench(page, 'rolling-threes', 200, 160);
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await page.evaluate(() => window.dispatchEvent(new Event('kill-workers')));
  await expect(page.getByTestId('ended')).toHaveText('Stopped: the sound was lost.');
  await expect(page.getByRole('alert')).toContainText('What you played is kept.');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  const kept = await newestTake(page);
  expect(kept?.passageId).toBe('rolling-threes');
  expect(kept?.repetitions.length).toBeGreaterThanOrEqual(1);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await page.keyboard.press('Escape');
  await expect.poll(async () => (await newestTake(page))?.id).not.toBe(kept?.id);
  expect((await newestTake(page))?.repetitions.length).toBeGreaterThanOrEqual(1);
});

test('a take that two tabs correct keeps the first correction, and the second tab is told', async ({ page, context }) => {
  const { takes } = API.takes.parse(await (await page.request.get('/api/takes?show=recorded&limit=200')).json());
  const id = takes.find((take) => take.input === 'simulated')?.id ?? '';
  const other = await context.newPage();
  for (const tab of [page, other]) {
    await tab.goto(`/ledger/${id}`);
    await expect(tab.locator('[data-testid=waveform][data-ready=true]')).toBeVisible();
  }
  const first = API.take.parse(await (await page.request.get(`/api/takes/${id}`)).json()).repetitions[0];
  const at = (first?.notes[0]?.expectedS ?? 0) + 0.05;
  const correctIn = async (tab: Page) => {
    await tab.bringToFront();
    await tab.getByTestId('waveform').focus();
    for (let k = 0; k < Math.round(at / 0.01); k += 1) await tab.keyboard.press('ArrowRight');
    await tab.keyboard.press('a');
  };
  await correctIn(page);
  await expect(page.getByTestId('edit-remark')).toContainText('A note was added');
  const answered = other.waitForResponse((response) => response.url().includes('/repetitions/'));
  await correctIn(other);
  expect((await answered).status()).toBe(412);
  await expect(other.getByTestId('edit-remark')).toContainText('This take was changed elsewhere meanwhile.');
  const stored = API.take.parse(await (await page.request.get(`/api/takes/${id}`)).json());
  expect(stored.repetitions[0]?.edits).toHaveLength(1);
  // It is shown anew by now: the same correction, made again, is of what is stored.
  const again = other.waitForResponse((response) => response.url().includes('/repetitions/'));
  await other.keyboard.press('a');
  expect((await again).status()).toBe(200);
  for (let k = 0; k < 2; k += 1) {
    const undone = other.waitForResponse((response) => response.url().includes('/repetitions/'));
    await other.keyboard.press('u');
    await undone;
  }
});

test('settings that two tabs change keep both changes', async ({ page, context }) => {
  await setUpWith(page, { clickLevel: 0.5, noteNaming: 'british' });
  const other = await context.newPage();
  for (const tab of [page, other]) {
    await tab.goto('/setup/click');
    await expect(tab.getByLabel('Click level')).toHaveValue('50');
  }
  await page.getByLabel('Click level').fill('35');
  await page.getByLabel('Click level').blur();
  await expect
    .poll(async () => API.settings.parse(await (await page.request.get('/api/settings')).json()).clickLevel)
    .toBe(0.35);
  await other.getByRole('link', { name: 'Tolerance' }).click();
  await other.getByLabel('Window floor').fill('14');
  await other.getByLabel('Window floor').blur();
  await expect
    .poll(async () => API.settings.parse(await (await page.request.get('/api/settings')).json()).tolerance.windowFloorMs)
    .toBe(14);
  const now = API.settings.parse(await (await page.request.get('/api/settings')).json());
  expect(now).toMatchObject({ clickLevel: 0.35, tolerance: { windowFloorMs: 14 } });
  await setUpWith(page, {});
});

test('a disk that takes nothing is said before the player begins', async ({ page }) => {
  const storage = 'The disk does not take what Isochron writes: it is full.';
  await page.route('**/api/health', (route) =>
    route.fulfill({ json: { ok: true, demo: false, storage, unreadable: [], nowMs: 0 } }),
  );
  await page.goto('/bench/five-steps');
  await expect(page.getByRole('alert')).toContainText(storage);
});

test('a row that cannot be read is named in every place', async ({ page }) => {
  const sentence = 'The passage (Rolling threes) cannot be read and is left out. What is stored of it is left as it is.';
  await page.route('**/api/health', (route) =>
    route.fulfill({ json: { ok: true, demo: false, storage: '', unreadable: [sentence], nowMs: 0 } }),
  );
  for (const place of ['/', '/ledger']) {
    await page.goto(place);
    await expect(page.getByRole('alert')).toContainText(sentence);
    await expect(page.getByRole('link', { name: 'What to do' })).toBeVisible();
  }
});

test('a backup is fetched in Setup, and restored there after a question', async ({ page }) => {
  await page.goto('/setup/backup');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Back up everything' }).click(),
  ]);
  const path = await download.path();
  const before = API.takes.parse(await (await page.request.get('/api/takes')).json()).total;
  await page.getByLabel('A backup to restore').setInputFiles(path);
  await page.getByRole('button', { name: 'Restore it' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Restore it' }).click();
  await expect(page.getByText(/takes and \d+ recordings are restored/)).toBeVisible();
  expect(API.takes.parse(await (await page.request.get('/api/takes')).json()).total).toBe(before);
  await page.getByLabel('A backup to restore').setInputFiles({
    name: 'letter.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from('Dear player, this is no backup.'),
  });
  await page.getByRole('button', { name: 'Restore it' }).click();
  await page.getByRole('alertdialog').getByRole('button', { name: 'Restore it' }).click();
  await expect(page.getByRole('alert')).toContainText('This is not a backup of Isochron.');
});
