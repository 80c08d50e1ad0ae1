import type { PlanSettings } from '../schema/day-plan';
import { makeReason, type Reason } from '../schema/reason';
import { dayAt, dayIndex, weekdayOf } from '../time/day';

/** How long a day is, and why. */
export interface DayMinutes {
  minutes: number;
  why: Reason;
}

/** A day with less from downbeat to downbeat was missed. */
const MISSED_UNDER_MIN = 0.5;
/** A missed day is not made up whole: the next day takes on this share of it, and no more than this. */
const MOVED_SHARE = 1 / 3;
const MAX_MOVED_MIN = 10;

/** So long is a day that is played on though the week has it as one of rest: enough to begin with, short enough to be one. */
export const SHORT_DAY_MIN = 15;

/** Why a day is planned, whatever the week says of it: nothing was played before it, or it is the demo's. */
export type AlwaysPlanned = 'first-day' | 'demo';

/**
 * How many minutes a day has by the player's week. A day that was missed bends the week: a practice day after it grows a little, a day
 * of rest after it becomes one of practice; nothing is carried further on. `playedMin` gives the minutes at the instrument of a day; null for a
 * day before the player's first. With `always` a day of rest is a short day: whoever comes for the first time comes to play.
 */
export const dayMinutes = (
  day: string,
  { weekMin }: Pick<PlanSettings, 'weekMin'>,
  playedMin: (day: string) => number | null,
  always: AlwaysPlanned | null = null,
): DayMinutes => {
  const planned = weekMin[weekdayOf(day)] as number;
  const yesterday = dayAt(dayIndex(day) - 1);
  const plannedYesterday = weekMin[weekdayOf(yesterday)] as number;
  const played = playedMin(yesterday);
  const isMissed = plannedYesterday > 0 && played !== null && played < MISSED_UNDER_MIN;
  if (isMissed && planned === 0)
    return { minutes: plannedYesterday, why: makeReason('day-moved', { minutes: plannedYesterday }) };
  const more = isMissed ? Math.min(MAX_MOVED_MIN, Math.round(MOVED_SHARE * plannedYesterday)) : 0;
  if (more > 0) return { minutes: planned + more, why: makeReason('day-longer', { minutes: planned, more }) };
  if (planned > 0) return { minutes: planned, why: makeReason('day-week', { minutes: planned }) };
  return always
    ? { minutes: SHORT_DAY_MIN, why: makeReason(`day-${always}`, { minutes: SHORT_DAY_MIN }) }
    : { minutes: 0, why: makeReason('day-rest') };
};
