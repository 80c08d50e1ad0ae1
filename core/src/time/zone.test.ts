import { describe, expect, it } from 'vitest';
import { ZoneSchema } from '../schema/ids';
import { dayAt, dayIndex } from './day';
import { dayInZone, dayStartMs, zoneOffsetMin, zoneOffsets } from './zone';

const at = (moment: string): number => Date.parse(moment);

// Rules of the IANA time zone database: the European Union changes at 01:00 UTC on the last Sundays of March and October; New Zealand is
// 13 h ahead in summer, 12 in winter; India is 5 h 30 ahead all year; Los Angeles is 8 h behind in winter, 7 in summer.
describe('the clocks of a zone', () => {
  it('are as far from universal time as the database of zones says', () => {
    expect(zoneOffsetMin('Pacific/Auckland', at('2026-01-15T00:00:00Z'))).toBe(13 * 60);
    expect(zoneOffsetMin('Pacific/Auckland', at('2026-07-15T00:00:00Z'))).toBe(12 * 60);
    expect(zoneOffsetMin('Asia/Kolkata', at('2026-07-15T00:00:00Z'))).toBe(330);
    expect(zoneOffsetMin('America/Los_Angeles', at('2026-01-15T00:00:00Z'))).toBe(-8 * 60);
    expect(zoneOffsetMin('America/Los_Angeles', at('2026-07-15T00:00:00Z'))).toBe(-7 * 60);
    expect(zoneOffsetMin('UTC', at('2026-07-15T00:00:59.999Z'))).toBe(0);
  });

  it('change when they change, to the minute', () => {
    expect(zoneOffsets('Europe/Berlin', at('2026-01-01T00:00:00Z'), at('2027-01-01T00:00:00Z'))).toEqual([
      { fromMs: at('2026-01-01T00:00:00Z'), offsetMin: 60 },
      { fromMs: at('2026-03-29T01:00:00Z'), offsetMin: 120 },
      { fromMs: at('2026-10-25T01:00:00Z'), offsetMin: 60 },
    ]);
    expect(zoneOffsets('Asia/Kolkata', at('2026-01-01T00:00:00Z'), at('2027-01-01T00:00:00Z'))).toHaveLength(1);
  });

  it('are of a zone that there is', () => {
    expect(ZoneSchema.safeParse('Pacific/Auckland').success).toBe(true);
    for (const zone of ['Mars/Olympus', '', "UTC' OR 1", 'x'.repeat(100)])
      expect(ZoneSchema.safeParse(zone).success).toBe(false);
  });
});

describe('a day in a zone', () => {
  const ZONES = [
    'UTC',
    'Pacific/Auckland',
    'Asia/Kolkata',
    'America/Los_Angeles',
    'Europe/Berlin',
    'America/Sao_Paulo',
    'Africa/Cairo',
  ];

  it.each(ZONES)('of %s begins a moment after the day before it ended, every day of four years', (zone) => {
    for (let k = 0; k < 4 * 366; k += 1) {
      const day = dayAt(dayIndex('2026-01-01') + k);
      const start = dayStartMs(zone, day);
      expect(dayInZone(zone, start)).toBe(day);
      expect(dayInZone(zone, start - 60_000)).toBe(dayAt(dayIndex(day) - 1));
    }
  });

  it('holds the 29th of February and both sides of midnight', () => {
    expect(dayInZone('Pacific/Auckland', at('2028-02-28T11:30:00Z'))).toBe('2028-02-29');
    expect(dayInZone('America/Los_Angeles', at('2028-03-01T07:59:00Z'))).toBe('2028-02-29');
    expect(dayInZone('Asia/Kolkata', at('2026-12-31T18:29:00Z'))).toBe('2026-12-31');
    expect(dayInZone('Asia/Kolkata', at('2026-12-31T18:30:00Z'))).toBe('2027-01-01');
  });
});
