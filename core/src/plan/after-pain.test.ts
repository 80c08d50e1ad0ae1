import { describe, expect, it } from 'vitest';
import { makeReason } from '../schema/reason';
import { describeReason } from '../words/describe-reason';
import { isAfterPain, lighterDay, lowerStart } from './after-pain';

describe('after pain', () => {
  it('days are light for five days, the one on which it hurt among them, and none before it or without it', () => {
    const days = ['2026-02-27', '2026-02-28', '2026-03-01', '2026-03-04', '2026-03-05'];
    expect(days.map((day) => isAfterPain('2026-02-28', day))).toEqual([false, true, true, true, false]);
    expect(isAfterPain(null, '2026-03-01')).toBe(false);
  });

  it('a day has half its minutes and says so; a day of rest stays one', () => {
    const light = lighterDay({ minutes: 40, why: makeReason('day-week', { minutes: 40 }) });
    expect(light.minutes).toBe(20);
    expect(describeReason(light.why, { noteNaming: 'british' })).toMatch(/^It hurt lately.*20 minutes/);
    expect(lighterDay({ minutes: 0, why: makeReason('day-rest') }).minutes).toBe(0);
    expect(lighterDay({ minutes: 4, why: makeReason('day-week', { minutes: 4 }) }).minutes).toBe(4);
  });

  it('a take begins clearly lower', () => {
    expect(lowerStart({ bpm: 100 })).toMatchObject({ bpm: 80, why: { code: 'start-after-pain' } });
  });
});
