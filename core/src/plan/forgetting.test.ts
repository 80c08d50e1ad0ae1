import { describe, expect, it } from 'vitest';
import type { PracticeDay } from '../schema/practice';
import { chance } from '../stats/random';
import { dayAt } from '../time/day';
import { bearableDays, dueOf } from './due';
import { fitForgetting, fitPassage, lostAfter, openingsOf } from './forgetting';
import { goalRange } from './goal-range';

const FIRST = 20_500;
const day = (index: number, part: Partial<PracticeDay> = {}): PracticeDay => ({
  passageId: 'a',
  variantId: 'first',
  sectionId: 'whole',
  day: dayAt(FIRST + index),
  takes: 1,
  repetitions: 8,
  clean: 5,
  playedS: 300,
  fastS: 0,
  withoutClickS: 0,
  openBpm: 76,
  openClean: true,
  bestCleanBpm: 80,
  ...part,
});

/** A player who loses `rate` times the logarithm of days and starts a little under the close. */
const forgetful = (rate: number, seed: number): PracticeDay[] => {
  const { uniform } = chance(seed);
  const days: PracticeDay[] = [];
  for (let at = 0, last = -1; at < 300; at += 1 + Math.floor(9 * uniform())) {
    const lost = last < 0 ? 0 : rate * Math.log(at - last);
    const openBpm = 80 * Math.exp(-0.02 - 0.08 * uniform());
    const margin = (Math.log(80) - lost - Math.log(openBpm)) / 0.05;
    days.push(day(at, { openBpm, openClean: uniform() < 1 / (1 + Math.exp(-margin)) }));
    last = at;
  }
  return days;
};

describe('openings', () => {
  it('hold the first repetition of a day against the best clean tempo before it', () => {
    const openings = openingsOf([
      day(0),
      day(3, { openBpm: 72, openClean: false, bestCleanBpm: null }),
      day(4, { openBpm: 60 }),
      day(4, { passageId: 'b' }),
    ]);
    expect(openings).toEqual([
      { configId: 'a.first.whole', gapDays: 3, ratio: 0.9, clean: false },
      { configId: 'a.first.whole', gapDays: 1, ratio: 0.75, clean: true },
    ]);
  });

  it('tell nothing where no first repetition was judged', () => {
    expect(openingsOf([day(0), day(2, { openBpm: null, openClean: null })])).toEqual([]);
  });
});

describe('forgetting', () => {
  it('tells who forgets much from who forgets little', () => {
    const rates = [0.01, 0.05, 0.1].map((rate) => fitForgetting(openingsOf(forgetful(rate, 4))).rate);
    expect(rates[0]).toBeLessThan(rates[1] as number);
    expect(rates[1]).toBeLessThan(rates[2] as number);
    expect(rates[0]).toBeLessThan(0.03);
    expect(rates[2]).toBeGreaterThan(0.06);
  });

  it('without openings is what is usual, and widely uncertain', () => {
    const none = fitForgetting([]);
    expect(none).toMatchObject({ count: 0 });
    expect(none.high / Math.max(0.001, none.low)).toBeGreaterThan(5);
  });

  it('of a passage leans on the player until it has openings of its own', () => {
    const player = fitForgetting(openingsOf(forgetful(0.02, 8)));
    expect(fitPassage([], player).rate).toBeCloseTo(player.rate, 2);
    expect(fitPassage(openingsOf(forgetful(0.12, 9)), player).rate).toBeGreaterThan(2 * player.rate);
  });

  it('is nothing on the first day, and grows', () => {
    expect(lostAfter({ rate: 0.05 }, 1)).toBe(0);
    expect(lostAfter({ rate: 0.05 }, 30)).toBeGreaterThan(lostAfter({ rate: 0.05 }, 7));
    // 5 % are gone after e^(0.0513 / rate) days.
    expect(bearableDays({ rate: 0.05 })).toBeCloseTo(Math.exp(0.05129 / 0.05), 2);
    expect(bearableDays({ rate: 0 })).toBe(60);
  });
});

describe('what is due', () => {
  const kept = { rate: 0.005, low: 0.001, high: 0.01, night: 0, count: 20 };
  it('comes back in gaps that grow while it is kept', () => {
    const days = [0, 2, 6].map((at) => day(at));
    const due = dueOf(days, openingsOf(days), kept, dayAt(FIRST + 10));
    // Kept for four days: eight are next.
    expect(due).toMatchObject({ intervalDays: 8, inDays: 4, why: { code: 'due-kept' } });
    expect(dueOf([day(0)], [], kept, dayAt(FIRST + 3))).toMatchObject({
      intervalDays: 2,
      inDays: -1,
      why: { code: 'due-first' },
    });
    expect(dueOf([], [], kept, dayAt(FIRST))).toBeNull();
  });

  it('comes back sooner for who forgets more', () => {
    const days = [0, 2, 6, 20].map((at) => day(at));
    const due = dueOf(days, openingsOf(days), { ...kept, rate: 0.03 }, dayAt(FIRST + 30));
    expect(due?.why.code).toBe('due-forgetting');
    expect(due?.intervalDays).toBe(6);
  });

  it('comes back where it was only played fast', () => {
    const days = [8, 9, 10].map((at) => day(at, { playedS: 200, fastS: 190 }));
    expect(dueOf(days, [], kept, dayAt(FIRST + 11))).toMatchObject({
      inDays: 0,
      why: { code: 'due-only-fast', values: { fastPct: 95 } },
    });
    expect(dueOf(days, [], kept, dayAt(FIRST + 10))?.inDays).toBe(1);
  });
});

describe('the range of a goal', () => {
  const rising = (days: number, aDay: number, from = 80) =>
    Array.from({ length: days }, (_, k) => ({ day: dayAt(FIRST + 2 * k), bestCleanBpm: from + 2 * k * aDay }));

  it('lies around where the same pace would reach it', () => {
    const { from, to, why } = goalRange(rising(30, 0.25), 110, dayAt(FIRST + 58));
    expect(why.code).toBe('goal-range');
    // 94.5 by now: 15 more at a quarter a day are 62 days.
    expect(from && from < dayAt(FIRST + 58 + 62)).toBe(true);
    expect(to && to > dayAt(FIRST + 58 + 62)).toBe(true);
  });

  it('says when it cannot know', () => {
    expect(goalRange(rising(5, 0.3), 110, dayAt(FIRST + 10)).why.code).toBe('goal-too-few');
    expect(goalRange([], 110, dayAt(FIRST)).why.code).toBe('goal-too-few');
    expect(goalRange(rising(30, 0), 110, dayAt(FIRST + 58))).toMatchObject({
      from: null,
      to: null,
      why: { code: 'goal-not-in-sight' },
    });
    expect(goalRange(rising(30, 0.25), 90, dayAt(FIRST + 58)).why.code).toBe('goal-was-clean');
  });

  it('never lies in the past, and is the same every time', () => {
    const history = rising(30, 0.3);
    const late = goalRange(history, 99, dayAt(FIRST + 200));
    expect(late.from && late.from > dayAt(FIRST + 200)).toBe(true);
    expect(goalRange(history, 99, dayAt(FIRST + 200))).toEqual(late);
  });
});
