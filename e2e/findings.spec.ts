import { acrossRepetitions, byGrid, findingOf } from '@isochron/core/analysis';
import { API } from '@isochron/core/schema';
import { describeReason } from '@isochron/core/words';
import { openBench, setUpWith, simulated, verdictOf } from './bench-page';
import { expect, test } from './test';

/** Findings that name a spot or a hand. */
const NAMING = ['finding-step', 'finding-label-timing', 'finding-label-level'];
/** Enough repetitions for a finding to be allowed to speak. */
const REPETITIONS = 5;

test('players without a habit, as they are played and stored here, are told of none', async ({ page }) => {
  const told: string[] = [];
  let looked = 0;
  for (const [passageId, spreadMs] of [
    ['five-steps', 3],
    ['in-on-the-upbeat', 6],
    ['hands-together', 5],
    ['rolling-threes', 4],
  ] as const) {
    await setUpWith(page, simulated(spreadMs));
    await openBench(page, passageId, 260, 160);
    await page.keyboard.press('Enter');
    for (let k = 0; k < REPETITIONS; k += 1) await verdictOf(page, k);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('link', { name: 'See it in the Ledger' })).toBeVisible();
  }
  const { takes } = API.takes.parse(await (await page.request.get('/api/takes?limit=4')).json());
  for (const { id } of takes) {
    const take = API.take.parse(await (await page.request.get(`/api/takes/${id}`)).json());
    for (const group of byGrid([take])) {
      const finding = findingOf(acrossRepetitions(group, take.withoutClick));
      expect(describeReason(finding, { noteNaming: 'british' })).toMatch(/\.$/);
      if (finding.code === 'finding-too-few') continue;
      looked += 1;
      if (NAMING.includes(finding.code)) told.push(`${take.title}: ${describeReason(finding, { noteNaming: 'british' })}`);
    }
  }
  expect(looked).toBeGreaterThan(2);
  expect(told).toEqual([]);
});

test('every take of the demo goes through all findings, and each says a sentence', async ({ page }) => {
  const { takes } = API.takes.parse(await (await page.request.get('/api/takes?limit=200')).json());
  for (const { id } of takes) {
    const take = API.take.parse(await (await page.request.get(`/api/takes/${id}`)).json());
    for (const group of byGrid([take]))
      expect(describeReason(findingOf(acrossRepetitions(group, take.withoutClick)), { noteNaming: 'british' })).toMatch(/\.$/);
  }
  expect(takes.length).toBeGreaterThan(100);
});
