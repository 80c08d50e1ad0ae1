import { DAY_MS } from './units';

/** The number of a calendar day (YYYY-MM-DD), so that days can be counted between two. */
export const dayIndex = (day: string): number => Math.round(Date.parse(`${day}T00:00:00Z`) / DAY_MS);

/** The calendar day of a number. */
export const dayAt = (index: number): string => new Date(index * DAY_MS).toISOString().slice(0, 10);

/** Day of the week, Monday is 0. */
export const weekdayOf = (day: string): number => (dayIndex(day) + 3) % 7;

/** Which day it is, by the calendar where the player is: for what changes from day to day. */
export const dayNumber = (now: Date): number => Math.floor((now.getTime() - now.getTimezoneOffset() * 60_000) / DAY_MS);

/** The calendar day of a moment where the player is. */
export const localDay = (moment: Date): string => dayAt(dayNumber(moment));
