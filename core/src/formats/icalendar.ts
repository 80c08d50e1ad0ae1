import { createEvents, type EventAttributes } from 'ics';
import { dayAt, dayIndex, weekdayOf } from '../time/day';

/** One block of a plan, said for a calendar. */
export interface CalendarBlock {
  title: string;
  minutes: number;
  restMin: number;
  about: string;
}

/** A weekday's practice as the week has it. */
const EVENING_HOUR = 18;
const DAY_MIN = 24 * 60;

const dateOf = (day: string): [number, number, number] => day.split('-').map(Number) as [number, number, number];

const written = (events: EventAttributes[]): string => {
  const { error, value } = createEvents(events, { productId: 'isochron', calName: 'Practice' });
  if (error || !value) throw new Error(`The calendar could not be written: ${error?.message ?? 'nothing came of it'}`);
  return value;
};

/** The blocks of a day as events one after the other, from a time of that day (minutes from midnight, the reader's own clock). iCalendar, RFC 5545. */
export const dayCalendar = (day: string, blocks: readonly CalendarBlock[], fromMin: number): string => {
  let atMin = fromMin;
  return written(
    blocks.map(({ title, minutes, restMin, about }, k): EventAttributes => {
      atMin += restMin;
      // What goes on past midnight lies on the day after.
      const date = dateOf(dayAt(dayIndex(day) + Math.floor(atMin / DAY_MIN)));
      const start: EventAttributes['start'] = [...date, Math.floor(atMin / 60) % 24, Math.floor(atMin % 60)];
      atMin += minutes;
      return {
        uid: `${day}-${k + 1}@isochron`,
        title,
        description: about,
        start,
        startOutputType: 'local',
        duration: { minutes: Math.max(1, Math.round(minutes)) },
      };
    }),
  );
};

const WEEKDAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];

/** The player's week as events that come back every week, from a day on: days of one length together. */
export const weekCalendar = (weekMin: readonly number[], from: string, title: string): string =>
  written(
    [...new Set(weekMin)]
      .filter((minutes) => minutes > 0)
      .map((minutes): EventAttributes => {
        const days = weekMin.flatMap((one, k) => (one === minutes ? [k] : []));
        const firstIn = Math.min(...days.map((k) => (k - weekdayOf(from) + 7) % 7));
        return {
          uid: `week-${minutes}@isochron`,
          title,
          start: [...dateOf(dayAt(dayIndex(from) + firstIn)), EVENING_HOUR, 0],
          startOutputType: 'local',
          duration: { minutes },
          recurrenceRule: `FREQ=WEEKLY;BYDAY=${days.map((k) => WEEKDAYS[k]).join(',')}`,
        };
      }),
  );
