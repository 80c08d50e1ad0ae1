import { group } from 'd3-array';
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

/** The Monday of a day's week. */
export const weekOf = (day: string): string => dayAt(dayIndex(day) - weekdayOf(day));

/** What was practised on some days, all of it together. */
export const totalOf = (days: readonly PracticeDay[]): Omit<Total, 'from'> => {
  const sum = (of: (day: PracticeDay) => number) => days.reduce((all, one) => all + of(one), 0);
  return {
    slowS: sum((one) => one.playedS - one.fastS),
    fastS: sum((one) => one.fastS),
    withoutClickS: sum((one) => one.withoutClickS),
    takes: sum((one) => one.takes),
    repetitions: sum((one) => one.repetitions),
    clean: sum((one) => one.clean),
    days: new Set(days.map(({ day }) => day)).size,
  };
};

/** Sums days by week (from Monday) or by day, without gaps: weeks with nothing are there with nothing in them. */
export const totals = (days: readonly PracticeDay[], by: 'week' | 'day'): Total[] => {
  const firstOf = by === 'week' ? weekOf : (day: string) => day;
  const step = by === 'week' ? 7 : 1;
  const groups = group(days, ({ day }) => firstOf(day));
  const keys = [...groups.keys()].sort();
  const [first, last] = [keys[0], keys.at(-1)];
  if (!first || !last) return [];
  return Array.from({ length: (dayIndex(last) - dayIndex(first)) / step + 1 }, (_, k) => {
    const from = dayAt(dayIndex(first) + k * step);
    return { from, ...totalOf(groups.get(from) ?? []) };
  });
};
