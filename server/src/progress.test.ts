import { API, type ProgressRepetitions } from '@isochron/core/schema';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { putTake } from './takes';
import { makeOne, PRACTICE_SESSION, sendJson } from './testing/made-takes';
import { type OpenServer, openServer } from './testing/open-server';

let server: OpenServer;
beforeEach(async () => {
  server = await openServer();
  await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
});
afterEach(() => server.close());

const played = async (...days: string[]) => {
  for (const day of days) {
    const at = `${day}T18:00:00.000Z`;
    await putTake(server.store, { ...makeOne(), startedAt: at, endedAt: at });
  }
};
const progress = async (query = ''): Promise<ProgressRepetitions> => {
  const { passageId, variantId, sectionId } = makeOne();
  const answer = await fetch(
    `${server.api}/passages/${passageId}/progress?variantId=${variantId}&sectionId=${sectionId}${query}`,
  );
  return API.progress.parse(await answer.json());
};

describe('a passage over its history', () => {
  it('comes by stretches that are as short as the history allows, each with its repetitions', async () => {
    await played('2026-01-05', '2026-01-06', '2026-01-13', '2026-02-20');
    const { from, to, periodDays, repetitions: inStretches } = await progress();
    expect({ from, to, periodDays }).toEqual({ from: '2026-01-05', to: '2026-02-20', periodDays: 7 });
    const { repetitions } = makeOne();
    expect([...new Set(inStretches.map(({ period }) => period))]).toEqual([0, 1, 6]);
    expect(inStretches.filter(({ period }) => period === 0)).toHaveLength(2 * repetitions.length);
    expect(inStretches[0]).toMatchObject({ bpm: repetitions[0]?.askedBpm ?? expect.any(Number), repetitionKind: null });
    expect(inStretches.some(({ spreadMs }) => spreadMs !== null)).toBe(true);
    await played('2030-01-05');
    expect((await progress()).periodDays).toBe(28);
    const later = await progress('&from=2026-02-01&to=2026-02-28');
    expect([...new Set(later.repetitions.map(({ period }) => period))]).toEqual([2]);
  });

  it('is summed over all of it, and to nothing where nothing was played', async () => {
    const { passageId, variantId, sectionId, repetitions } = makeOne();
    const totals = async (section: string) =>
      API.configTotals.parse(
        await (
          await fetch(`${server.api}/practice/totals?passageId=${passageId}&variantId=${variantId}&sectionId=${section}`)
        ).json(),
      );
    await played('2020-01-05', '2026-01-06', '2026-01-06');
    expect(await totals(sectionId)).toMatchObject({ takes: 3, repetitions: 3 * repetitions.length });
    expect((await totals(sectionId)).playedS).toBeGreaterThan(0);
    expect(await totals('no-such')).toEqual({ takes: 0, repetitions: 0, clean: 0, playedS: 0, fastS: 0 });
  });

  it('looks at the newest takes of a stretch with many, at none where there are none, and past one that cannot be read', async () => {
    expect((await progress()).repetitions).toEqual([]);
    const days = Array.from({ length: 9 }, () => '2026-03-02');
    await played(...days);
    const { repetitions } = await progress();
    expect(new Set(repetitions.map(({ takeId }) => takeId)).size).toBe(6);
    const [first] = repetitions;
    await server.store.database.query(`UPDATE repetitions SET outcome = 'no such' WHERE takeId = '${first?.takeId}'`);
    const left = await progress();
    expect(new Set(left.repetitions.map(({ takeId }) => takeId)).size).toBe(5);
  });
});

describe('what was practised day by day', () => {
  const days = async (query: string) => API.practice.parse(await (await fetch(`${server.api}/practice?${query}`)).json()).days;

  it('is asked for from a day to a day, both whole', async () => {
    await played('2026-01-05', '2026-01-06', '2026-01-07');
    expect((await days('from=2026-01-05&to=2026-01-06')).map(({ day }) => day)).toEqual(['2026-01-05', '2026-01-06']);
    expect((await days('to=2026-01-05')).map(({ day }) => day)).toEqual(['2026-01-05']);
    expect(await days('from=2026-01-08')).toEqual([]);
    expect((await fetch(`${server.api}/practice?to=soon`)).status).toBe(400);
  });

  it('tells what was played without a click', async () => {
    await played('2026-01-05');
    const at = '2026-01-05T19:00:00.000Z';
    await putTake(server.store, { ...makeOne(), withoutClick: true, startedAt: at, endedAt: at });
    const [day] = await days('from=2026-01-05');
    expect(day?.withoutClickS).toBeGreaterThan(0);
    expect(day?.withoutClickS).toBeCloseTo((day?.playedS ?? 0) / 2, 6);
  });
});
