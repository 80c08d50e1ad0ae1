import type { PracticeDay } from '../schema/practice';
import { dayAt, dayIndex, weekdayOf } from '../time/day';

/** What was practised in one week, or on one day. */
export interface Total {
  /** Its first day. */
  from: string;
  slowS: number;
  fastS: number;
  /** Of both, without a click. */
  withoutClickS: number;
  takes: number;
  repetitions: number;
  clean: number;
  /** Days with anything played. */
  days: number;
}

const NOTHING = { slowS: 0, fastS: 0, withoutClickS: 0, takes: 0, repetitions: 0, clean: 0 };

/** The Monday of a day's week. */
export const weekOf = (day: string): string => dayAt(dayIndex(day) - weekdayOf(day));

/** Sums days by week (from Monday) or by day, without gaps: weeks with nothing are there with nothing in them. */
export const totals = (days: readonly PracticeDay[], by: 'week' | 'day'): Total[] => {
  const firstOf = by === 'week' ? weekOf : (day: string) => day;
  const step = by === 'week' ? 7 : 1;
  const sums = new Map<string, Total & { seen: Set<string> }>();
  for (const one of days) {
    const from = firstOf(one.day);
    const sum = sums.get(from) ?? { from, ...NOTHING, days: 0, seen: new Set() };
    sum.slowS += one.playedS - one.fastS;
    sum.fastS += one.fastS;
    sum.withoutClickS += one.withoutClickS;
    sum.takes += one.takes;
    sum.repetitions += one.repetitions;
    sum.clean += one.clean;
    sum.seen.add(one.day);
    sums.set(from, sum);
  }
  const keys = [...sums.keys()].sort();
  const [first, last] = [keys[0], keys.at(-1)];
  if (!first || !last) return [];
  return Array.from({ length: (dayIndex(last) - dayIndex(first)) / step + 1 }, (_, k) => {
    const from = dayAt(dayIndex(first) + k * step);
    const { seen, ...sum } = sums.get(from) ?? { from, ...NOTHING, seen: new Set() };
    return { ...sum, days: seen.size };
  });
};
