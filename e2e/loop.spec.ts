import { API, DEFAULT_SETTINGS } from '@isochron/core/schema';
import { choose, newestTake, openBench, partOf, setUpWith, simulated, verdictOf } from './bench-page';
import { playFor, playUntil } from './driven-clock';
import { expect, test } from './test';

test('an uneven repetition holds the tempo, a second lowers it, and the reason is said', async ({ page }) => {
  await setUpWith(page, simulated(26));
  await openBench(page, 'five-steps', 160, 120);
  await page.keyboard.press('Enter');
  const first = await verdictOf(page, 0);
  expect(['hold', 'lower']).toContain(first.action);
  const second = await verdictOf(page, 1);
  expect(second.nextBpm).toBeLessThan(120);
  expect(second.text).toMatch(/Not yet|Came apart/);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('ended')).toBeVisible();
});

test('one key overrules the strategy, and a tense repetition lowers the tempo', async ({ page }) => {
  await setUpWith(page, simulated(3));
  // Far above the edge that the demo's player left here.
  await openBench(page, 'in-on-the-upbeat', 200, 170);
  await page.keyboard.press('Enter');
  await verdictOf(page, 0);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(page.getByTestId('tempo')).toHaveText('165');
  await expect(page.getByTestId('verdict')).toContainText('Your choice: 165');
  const second = await verdictOf(page, 1);
  await page.keyboard.press('3');
  // What came apart goes lower still, and says so: on a busy machine a late change of tempo may cost notes.
  const isApart = second.outcome === 'broken';
  await expect(page.getByTestId('verdict')).toContainText(isApart ? 'It came apart' : 'That felt tense');
  if (!isApart) await expect(page.getByTestId('tempo')).toHaveText('155');
  expect(Number(await page.getByTestId('tempo').innerText())).toBeLessThanOrEqual(155);
  await page.keyboard.press('0');
  await expect(page.getByTestId('ended')).toHaveText('Stopped, because it hurt.');
  await expect(page.getByText('physiotherapist who treats musicians')).toBeVisible();
});

test('an answer that comes while the next repetition sounds takes effect after it, and never raises', async ({ page }) => {
  await setUpWith(page, simulated(3));
  await openBench(page, 'in-on-the-upbeat', 200, 170);
  await page.keyboard.press('Enter');
  expect(await verdictOf(page, 0)).toMatchObject({ action: 'raise', nextBpm: 175 });
  await playUntil(page, '[data-testid=phase]', 'Play');
  await page.keyboard.press('3');
  await expect(page.getByTestId('verdict')).toContainText('That felt tense: down to 160');
  // What sounds goes on; what follows is what was answered.
  await expect(page.getByTestId('tempo')).toHaveText('175');
  expect(await verdictOf(page, 1)).toMatchObject({ action: 'lower', nextBpm: 160 });
  // There it stays until it is easy. A slip is taken back: tense, then easy.
  const stays = await verdictOf(page, 2);
  expect(stays).toMatchObject({ action: 'hold', nextBpm: 160 });
  expect(stays.text).toContain('until you answer that it is easy');
  await page.keyboard.press('3');
  await expect(page.getByTestId('tempo')).toHaveText('150');
  await page.keyboard.press('1');
  await expect(page.getByTestId('tempo')).toHaveText('165');
  await page.keyboard.press('Escape');
  // The last answer may come when it is over.
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  await page.keyboard.press('2');
  await expect
    .poll(async () => (await newestTake(page))?.repetitions.map(({ ease }) => ease))
    .toEqual(['tense', null, 'working']);
});

test('strategy, method and click are chosen on the Bench, and kept for the passage', async ({ page }) => {
  await setUpWith(page, simulated(3));
  await openBench(page, 'five-steps', 150, 100);
  await choose(page, 'Tempo plan', 'Free');
  await choose(page, 'Practice method', 'Repeat each note');
  await choose(page, 'Click', 'only before, none while playing');
  await page.getByRole('heading', { level: 1 }).click();
  // Waited for before it is there: on a busy machine it may be gone when one looks.
  const isSaid = page.getByText('then play on alone').waitFor();
  await page.keyboard.press('Enter');
  await isSaid;
  expect(await verdictOf(page, 0)).toMatchObject({ action: 'hold', nextBpm: 100 });
  await expect(page.locator('[data-testid=strip] [data-stroke]')).toHaveCount(33);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  const take = await newestTake(page);
  expect(take).toMatchObject({ withoutClick: true, goalBpm: 150, strategy: { id: 'free' } });
  expect(take?.drills[0]).toMatchObject({ method: { id: 'repeat-each', parameters: { times: 2 } }, click: { kind: 'none' } });
  await page.goto('/bench/five-steps');
  await expect(partOf(page, 'Tempo plan')).toHaveText('free');
  await expect(page.getByLabel('Goal')).toHaveValue('150');
  // Back to how the other tests expect it.
  await page.keyboard.press('u');
  await expect(partOf(page, 'Practice method')).toHaveText('straight');
  await choose(page, 'Click', 'on every beat');
  await expect
    .poll(async () => {
      const practiceConfigs = API.practiceConfigs.parse(await (await page.request.get('/api/practice-configs')).json());
      return practiceConfigs.find(({ passageId }) => passageId === 'five-steps');
    })
    .toMatchObject({ strategyId: 'half-speed-climb', methodId: 'straight', click: { kind: 'beat' } });
});

test('what sounds is kept when it is stopped, and a key counts it in again', async ({ page }) => {
  await setUpWith(page, simulated(3));
  await openBench(page, 'tidewheel', 90, 60);
  await page.keyboard.press('Enter');
  await playUntil(page, '[data-testid=phase]', 'Play');
  await playFor(page, 6);
  await page.keyboard.press('a');
  expect(await verdictOf(page, 0)).toMatchObject({ outcome: 'broken', action: 'hold', nextBpm: 60 });
  await playUntil(page, '[data-testid=phase]', 'Play');
  await playFor(page, 4);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  await expect(page.getByText('nothing to keep')).toHaveCount(0);
  const take = await newestTake(page);
  expect(take?.repetitions.map(({ verdict }) => verdict.reason)).toEqual(['broken-off', 'by-hand']);
  for (const { measures } of take?.repetitions ?? []) {
    expect(measures).toMatchObject({ missed: 0, extra: 0 });
    expect(measures.brokenOff?.note).toBeGreaterThan(3);
  }
});

test('who breaks off is heard, told how far it held, and goes on where a key says', async ({ page }) => {
  await setUpWith(page, { input: 'simulated', skill: { ...DEFAULT_SETTINGS.skill, spreadMs: 3, breaksOffAt: 100 } });
  await openBench(page, 'tidewheel', 90, 60);
  await page.keyboard.press('Enter');
  const broken = await verdictOf(page, 0);
  expect(broken).toMatchObject({ outcome: 'broken', action: 'hold', nextBpm: 60 });
  expect(broken.text).toMatch(/You held on for 100 notes of \d+; it broke off in bar \d+ of it\./);
  // Counted in anew at once: from the beginning, then from a bar before the break, then that bar alone.
  await page.keyboard.press('b');
  await expect(page.getByTestId('way')).toHaveText('The place where it broke off.');
  await page.keyboard.press('b');
  await expect(page.getByText('broken off: that bar alone')).toBeVisible();
  const held = await verdictOf(page, 1);
  expect(held).toMatchObject({ outcome: 'clean', nextBpm: 60 });
  expect(held.text).toContain('That place holds: from the beginning');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  const take = await newestTake(page);
  expect(take?.repetitions.map(({ measures }) => measures.brokenOff?.note ?? null)).toEqual([100, null]);
  expect(take?.repetitions[0]?.measures).toMatchObject({ missed: 0, extra: 0 });
  expect(take?.drills.map(({ repetitionKind }) => repetitionKind ?? null)).toEqual([null, 'retake']);
  // What was measured until then is in the Ledger.
  await page.getByRole('link', { name: 'See it in the Ledger' }).click();
  await expect(page.getByRole('heading', { name: 'Every repetition' })).toBeVisible();
});

test('two hands that stop in their first repetition at a MIDI instrument have broken off', async ({ page }) => {
  await setUpWith(page, {
    input: 'midi',
    midiPortId: 'virtual',
    skill: { ...DEFAULT_SETTINGS.skill, spreadMs: 3, breaksOffAt: 9 },
  });
  await openBench(page, 'hands-together', 90, 60);
  await page.keyboard.press('Enter');
  const broken = await verdictOf(page, 0);
  // Of the delay of a first repetition nothing is known but what its own notes tell.
  expect(broken).toMatchObject({ outcome: 'broken', action: 'hold', nextBpm: 60 });
  expect(broken.text).toContain('You held on for 9 notes of 13; it broke off in bar 2 of it.');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  const take = await newestTake(page);
  expect(take?.profile).toBe('midi');
  expect(take?.repetitions[0]?.measures).toMatchObject({ missed: 0, extra: 0, brokenOff: { note: 9, of: 13 } });
});

// Near the end there is silence enough at a slow tempo only.
for (const [bar, note, afterBreak, isWhole, bpm] of [
  [3, 40, 'beginning', true, 120],
  [20, 310, 'bar-before', false, 120],
  [31, 490, 'bar', false, 60],
] as const) {
  test(`a break in bar ${bar} is found, and "${afterBreak}" is taken by itself`, async ({ page }) => {
    await setUpWith(page, {
      input: 'simulated',
      skill: { ...DEFAULT_SETTINGS.skill, spreadMs: 3, breaksOffAt: note },
      afterBreak,
    });
    await openBench(page, 'tidewheel', 200, bpm);
    await page.keyboard.press('Enter');
    expect((await verdictOf(page, 0)).text).toContain(
      `You held on for ${note} notes of 497; it broke off in bar ${bar} of it.`,
    );
    await expect(page.getByTestId('way')).toHaveCount(isWhole ? 0 : 1);
    await page.keyboard.press('Escape');
    await expect(page.getByTestId('ended')).toBeVisible();
  });
}
