import type { PracticeDay } from '../schema/practice';
import { dayIndex } from '../time/day';

/** The slow budget is counted over the last week. */
export const BUDGET_DAYS = 7;

/** What was really played: seconds slow and fast. */
export interface PlayedShares {
  slowS: number;
  fastS: number;
}

/** Slow and fast seconds of the days before a day that the budget counts, and of the day itself. */
export const playedShares = (days: readonly PracticeDay[], today: string): PlayedShares => {
  const own = days.filter(({ day }) => {
    const ago = dayIndex(today) - dayIndex(day);
    return ago >= 0 && ago < BUDGET_DAYS;
  });
  const fastS = own.reduce((sum, one) => sum + one.fastS, 0);
  return { slowS: own.reduce((sum, one) => sum + one.playedS, 0) - fastS, fastS };
};

/** The most minutes of `minutes` that may be fast, so that with what was played at least `slowPct` of all is slow; all without a budget. */
export const fastMinutes = ({ slowS, fastS }: PlayedShares, slowPct: number | null, minutes: number): number => {
  if (slowPct === null) return minutes;
  const allS = slowS + fastS + 60 * minutes;
  return Math.min(minutes, Math.max(0, ((1 - slowPct / 100) * allS - fastS) / 60));
};
