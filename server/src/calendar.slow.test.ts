import {
  API,
  dayAt,
  dayIndex,
  dayInZone,
  dayStartMs,
  MINUTE_MS,
  now,
  ownZone,
  setClock,
  type Take,
  zoneOffsetMin,
} from '@isochron/core/schema';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { makeOne, PRACTICE_SESSION, sendJson } from './testing/made-takes';
import { type OpenServer, openServer } from './testing/open-server';

// `npm run test:days` runs this in other zones, at other moments.
const ZONES = [ownZone(), 'Pacific/Auckland', 'Asia/Kolkata', 'America/Los_Angeles', 'Europe/Berlin'];
/** Moments of a day by the clock on the wall, in minutes. */
const FIRST = 0;
const LAST = 23 * 60 + 59;

const started = now();
let server: OpenServer;
beforeAll(async () => {
  server = await openServer();
  await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
});
afterAll(() => server.close());
afterEach(() => setClock(new Date(Math.max(started.getTime(), now().getTime()))));

/** The moment of a clock on the wall, on a day in a zone. */
const momentOf = (zone: string, day: string, minute: number): string => {
  const end = dayStartMs(zone, dayAt(dayIndex(day) + 1));
  const begin = dayStartMs(zone, day);
  return new Date(minute === LAST ? end - MINUTE_MS : begin + minute * MINUTE_MS).toISOString();
};
const fetched = async (zone: string, path: string) =>
  (await fetch(`${server.api}${path}`, { headers: { 'Time-Zone': zone } })).json();
const put = async (passageId: string, startedAt: string): Promise<Take> => {
  const take = { ...makeOne(), passageId, startedAt, endedAt: startedAt };
  expect((await sendJson(`${server.api}/takes/${take.id}`, 'PUT', take)).status).toBe(200);
  return take;
};

/** Days on which something is odd about the calendar, and today. */
const DAYS = [
  dayInZone(ownZone(), started.getTime()),
  '2024-02-29',
  '2025-12-31',
  '2026-01-01',
  // The clocks go forward and back: in Europe, in the United States, in New Zealand.
  '2026-03-29',
  '2025-10-26',
  '2026-03-08',
  '2025-11-02',
  '2026-04-05',
  '2025-09-28',
];
const PASSAGES = ['five-steps', 'hands-together', 'in-on-the-upbeat', 'rolling-threes'];

describe('the calendar of the player', () => {
  it.each([...new Set(ZONES)].map((zone, k) => [zone, k]))(
    'in %s: the first and the last minute of a day are of that day, in every list',
    async (zone, k) => {
      const [place, nth] = [zone as string, k as number];
      const passageId = PASSAGES[nth % PASSAGES.length] as string;
      const other = await openServer();
      const own = server;
      server = other;
      try {
        await sendJson(`${server.api}/sessions/${PRACTICE_SESSION.id}`, 'PUT', PRACTICE_SESSION);
        const days = [...new Set(DAYS)].sort();
        for (const day of days) for (const minute of [FIRST, LAST]) await put(passageId, momentOf(place, day, minute));
        const practice = API.practice.parse(await fetched(place, '/practice'));
        expect(practice.days.map(({ day, takes }) => [day, takes])).toEqual(days.map((day) => [day, 2]));
        const history = API.history.parse(await fetched(place, `/passages/${passageId}/history`));
        expect(history.map(({ day }) => day)).toEqual(days);
        for (const day of days) {
          const { total } = API.takes.parse(await fetched(place, `/takes?from=${day}&to=${day}`));
          expect([day, total]).toEqual([day, 2]);
          const since = API.practice.parse(await fetched(place, `/practice?from=${day}`));
          expect(since.days[0]?.day).toBe(day);
        }
        const progress = API.progress.parse(
          await fetched(place, `/passages/${passageId}/progress?variantId=first&sectionId=whole`),
        );
        expect([progress.from, progress.to]).toEqual([days[0], days.at(-1)]);
        expect(new Set(progress.repetitions.map(({ takeId }) => takeId)).size).toBeGreaterThan(0);
      } finally {
        await other.close();
        server = own;
      }
    },
    120_000,
  );

  it('has a line of a log on the day that was written down', async () => {
    for (const zone of ZONES) {
      const day = dayAt(dayIndex('2026-05-01') + ZONES.indexOf(zone));
      const answer = await fetch(`${server.api}/passages/rolling-threes/log`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'Time-Zone': zone },
        body: JSON.stringify([{ day, bpm: 70 + ZONES.indexOf(zone), note: '' }]),
      });
      expect(answer.status).toBe(200);
      const history = API.history.parse(await fetched(zone, '/passages/rolling-threes/history'));
      expect(history.map((one) => one.day)).toContain(day);
    }
  });

  it('is refused where there is no such zone', async () => {
    const answer = await fetch(`${server.api}/practice`, { headers: { 'Time-Zone': "UTC' OR 1=1" } });
    expect(answer.status).toBe(400);
    expect(((await answer.json()) as { message: string }).message).toContain('time zone');
  });

  it('moves on at midnight, while the server runs', async () => {
    const zone = ownZone();
    const today = dayInZone(zone, now().getTime());
    setClock(new Date(dayStartMs(zone, dayAt(dayIndex(today) + 1)) - 20));
    expect(dayInZone(zone, now().getTime())).toBe(today);
    await new Promise((resolve) => setTimeout(resolve, 60));
    expect(dayInZone(zone, now().getTime())).toBe(dayAt(dayIndex(today) + 1));
    expect(Number.isFinite(zoneOffsetMin(zone, now().getTime()))).toBe(true);
  });
});
