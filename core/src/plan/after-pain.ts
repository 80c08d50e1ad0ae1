import { makeReason } from '../schema/reason';
import { clampBpm } from '../time/clamp-tempo';
import { dayIndex } from '../time/day';
import type { DayMinutes } from './day-minutes';
import type { StartTempo } from './start-tempo';

/** So many days after it hurt are light ones, the day itself among them (our choice: caution, not medicine). */
const LIGHT_DAYS = 5;
/** A light day has so much of its minutes, and takes begin at so much of their tempo. */
const MINUTES_SHARE = 0.5;
const START_SHARE = 0.8;
const LEAST_MIN = 5;

/** Whether a day is a light one, because it hurt on that day or in the last few before it. */
export const isAfterPain = (lastPainDay: string | null, day: string): boolean => {
  if (lastPainDay === null) return false;
  const since = dayIndex(day) - dayIndex(lastPainDay);
  return since >= 0 && since < LIGHT_DAYS;
};

/** A day made lighter after pain; a day of rest stays one. */
export const lighterDay = ({ minutes, why }: DayMinutes): DayMinutes => {
  if (minutes === 0) return { minutes, why };
  const light = Math.max(Math.min(LEAST_MIN, minutes), Math.round(MINUTES_SHARE * minutes));
  return { minutes: light, why: makeReason('day-after-pain', { minutes: light }) };
};

/** A start made clearly lower after pain. */
export const lowerStart = ({ bpm }: Pick<StartTempo, 'bpm'>): StartTempo => {
  const lower = clampBpm(Math.round(START_SHARE * bpm));
  return { bpm: lower, why: makeReason('start-after-pain', { bpm: lower }) };
};
