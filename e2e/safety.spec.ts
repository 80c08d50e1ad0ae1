import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { API } from '@isochron/core/schema';
import { laterMoment } from '../scripts/fixed-clock';
import { type SpawnedServer, spawnServer } from '../server/src/testing/spawn-server';
import { hasNoViolations } from './accessible';
import { beginRun, newestTake, openBench, pick, picked, setUpWith, simulated, verdictOf } from './bench-page';
import { playUntil } from './driven-clock';
import { expect, test } from './test';

let folder: string;
let server: SpawnedServer | null = null;
/** Where it is reached. */
let base = '';

/** Starts the server, again at the address where it was. */
const start = async () => {
  server = await spawnServer(folder, { env: { ISOCHRON_NOW: laterMoment() }, port: server?.port });
  base = server.origin;
};
const kill = () => server?.kill();

test.beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'isochron-safety-'));
});
test.beforeEach(start);
test.afterEach(kill);
test.afterAll(() => rm(folder, { recursive: true }));

test('a server that stops in mid-take loses nothing: the take goes to the Ledger when it is back', async ({ page }) => {
  await setUpWith(page, simulated(3), base);
  await openBench(page, 'five-steps', 200, 160, base);
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await kill();
  await verdictOf(page, 1);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('status')).toContainText('One take is safe in this browser');
  await expect(page.getByRole('status')).toContainText('server does not answer');
  await start();
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  const take = await newestTake(page, base);
  expect(take?.repetitions).toHaveLength(2);
  expect(take?.hasRecording).toBe(true);
});

test('a first day leads to a measured take in five presses, and can be left at any step', async ({ page }) => {
  await setUpWith(page, { ...simulated(3), firstDay: 'to-come' }, base);
  await page.route(/\/api\/practice(\?|$)/, (route) => route.fulfill({ json: { days: [], weak: [] } }));
  await page.goto(base);
  await page.getByRole('button', { name: 'Show me' }).click();
  await expect(page.getByRole('heading', { name: 'What you play, and how you are heard' })).toBeVisible();
  await hasNoViolations(page);
  await page.getByRole('button', { name: 'On to an exercise' }).click();
  await expect(page.getByRole('heading', { name: 'One exercise', level: 2 })).toBeVisible();
  await hasNoViolations(page);
  await page.getByRole('button', { name: 'To the Bench' }).click();
  await expect(page.getByLabel('Goal')).toBeVisible();
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('ended')).toBeVisible();
  // Once gone through it is not offered again.
  await page.goto(base);
  await expect(page.getByRole('list', { name: 'Today’s blocks' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Show me' })).toHaveCount(0);
});

test('on a first day another exercise is chosen, decisions may be said aloud, and one goes back', async ({ page }) => {
  await setUpWith(page, { ...simulated(3), firstDay: 'to-come' }, base);
  await page.goto(`${base}/first-day`);
  await page.getByRole('button', { name: 'On to an exercise' }).click();
  await pick(page, 'Exercise', 'rolling-threes');
  await pick(page, 'Say each verdict and tempo aloud', 'yes');
  await page.getByRole('button', { name: 'Back', exact: true }).click();
  await page.getByRole('button', { name: 'On to an exercise' }).click();
  await expect.poll(() => picked(page, 'Exercise')).toBe('rolling-threes');
  await page.getByRole('button', { name: 'To the Bench' }).click();
  await expect(page).toHaveURL(/bench\/rolling-threes/);
  await expect
    .poll(async () => API.settings.parse(await (await page.request.get(`${base}/api/settings`)).json()))
    .toMatchObject({ speaks: true, firstDay: 'over' });
  await page.goto(`${base}/first-day`);
  await page.getByRole('button', { name: 'Leave it here' }).click();
  await expect(page).toHaveURL(`${base}/`);
  await setUpWith(page, {}, base);
});

test('a run of blocks goes on without its server, and everything reaches the Ledger when it is back', async ({ page }) => {
  await setUpWith(page, simulated(2), base);
  for (const id of ['five-steps', 'hands-together'])
    await page.request.patch(`${base}/api/practice-configs/${id}.first.whole`, { data: { goalBpm: 280 } });
  await page.goto(base);
  // Enough for one repetition each.
  const titles = await beginRun(page, 2, 0.25);
  await expect(page.getByTestId('run')).toContainText('block 1 of 2');
  await playUntil(page, '[data-testid=tempo]');
  await kill();
  await playUntil(page, 'h1', titles[1] ?? '');
  await verdictOf(page, 0);
  await playUntil(page, 'body:not(:has([data-testid=run]))');
  await expect(page.getByTestId('run')).toHaveCount(0);
  await start();
  // By itself it is sent as well, a little later: that is the test before this.
  await page.reload();
  const titlesKept = async () => {
    const { takes } = API.takes.parse(await (await page.request.get(`${base}/api/takes?limit=2`)).json());
    return takes.map(({ title }) => title);
  };
  await expect.poll(titlesKept).toEqual([titles[1], titles[0]]);
});

test('a closed tab loses nothing: the next start offers the take', async ({ page, context }) => {
  await setUpWith(page, simulated(3), base);
  await openBench(page, 'rolling-threes', 200, 160, base);
  await page.keyboard.press('Enter');
  await verdictOf(page, 1);
  await page.close();

  const next = await context.newPage();
  await next.goto(base);
  await expect(next.getByRole('status').filter({ hasText: 'was broken off after 2 repetitions' })).toBeVisible();
  await next.getByRole('button', { name: 'Save it to the Ledger' }).click();
  await expect.poll(async () => (await newestTake(next, base))?.passageId).toBe('rolling-threes');
  // The take goes first, its sound after it.
  await expect.poll(async () => (await newestTake(next, base))?.hasRecording).toBe(true);
  const take = await newestTake(next, base);
  expect(take?.repetitions).toHaveLength(2);
  // At most the last second is missing: the recording reaches past the last repetition's first note.
  const wav = await next.request.get(`${base}/api/takes/${take?.id}/recording`);
  expect((await wav.body()).length).toBeGreaterThan((take?.repetitions[1]?.downbeatS ?? 0) * 44_100 * 2);
});

test('a reload in the middle of a take goes on in the same practice session, at the tempo where it was', async ({ page }) => {
  await setUpWith(page, simulated(3), base);
  await openBench(page, 'in-on-the-upbeat', 200, 160, base);
  await page.keyboard.press('Enter');
  await verdictOf(page, 1);
  await page.reload();
  await expect(page.getByText('Goes on where it was broken off, after 2 repetitions.')).toBeVisible();
  await expect(page.getByLabel('Start', { exact: true })).toHaveValue('170');
  await page.keyboard.press('Enter');
  expect(await verdictOf(page, 0)).toMatchObject({ nextBpm: 175 });
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  // What was broken off is in the Ledger as well, and both are of one practice session and one block.
  const listed = await (await page.request.get(`${base}/api/takes?passageId=in-on-the-upbeat`)).json();
  const { takes } = API.takes.parse(listed);
  const [second, first] = takes;
  expect(first?.repetitionCount).toBe(2);
  expect(second?.startBpm).toBe(170);
  expect(second?.sessionId).toBe(first?.sessionId);
  const session = API.session.parse(await (await page.request.get(`${base}/api/sessions/${first?.sessionId}`)).json());
  expect(session.blocks).toHaveLength(1);
  expect(session.blocks[0]?.takeIds).toEqual([first?.id, second?.id]);
  expect(session.blocks[0]?.snapshot).toBeNull();
});

test('a take that is being played in one tab is left alone by another', async ({ page, context }) => {
  await setUpWith(page, simulated(3), base);
  await openBench(page, 'in-on-the-upbeat', 200, 160, base);
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  const other = await context.newPage();
  await other.goto(`${base}/ledger`);
  await expect(other.getByRole('heading', { level: 1 })).toBeVisible();
  await other.waitForLoadState('networkidle');
  await expect(other.getByText('was broken off')).toHaveCount(0);
  await page.bringToFront();
  // It went on meanwhile: by how many, hangs on the machine.
  await playUntil(page, '[data-testid=verdict]:not([data-repetition="0"])');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  const take = await newestTake(page, base);
  expect(take?.repetitions.length).toBeGreaterThanOrEqual(2);
  expect(take?.hasRecording).toBe(true);
});
