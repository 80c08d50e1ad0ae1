import { API, acrossRepetitions, byGrid, describeReason, findingOf } from '@isochron/core';
import { expect, test } from '@playwright/test';

/** Findings that name a spot or a hand. */
const NAMING = ['finding-step', 'finding-label-timing', 'finding-label-level'];

test('every take that was played here goes through all findings: players without a habit are told of none', async ({
  page,
}) => {
  const { takes } = API.takes.parse(await (await page.request.get('/api/takes?limit=200')).json());
  const { nowMs } = API.health.parse(await (await page.request.get('/api/health')).json());
  let told = 0;
  let looked = 0;
  for (const { id, startedAt, input } of takes) {
    const take = API.take.parse(await (await page.request.get(`/api/takes/${id}`)).json());
    for (const group of byGrid([take])) {
      const finding = findingOf(acrossRepetitions(group, take.withoutClick));
      expect(describeReason(finding, { noteNaming: 'british' })).toMatch(/\.$/);
      // The demo's player has habits; those of these tests, begun today, have none.
      const isOfToday = nowMs - Date.parse(startedAt) < 3_600_000;
      if (!isOfToday || input !== 'simulated' || finding.code === 'finding-too-few') continue;
      looked += 1;
      if (NAMING.includes(finding.code)) told += 1;
    }
  }
  expect(takes.length).toBeGreaterThan(100);
  expect(told).toBeLessThanOrEqual(Math.max(1, 0.05 * looked));
});
