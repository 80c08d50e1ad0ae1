const DAY_MS = 86_400_000;

/** The number of a calendar day (YYYY-MM-DD), so that days can be counted between two. */
export const dayIndex = (day: string): number => Math.round(Date.parse(`${day}T00:00:00Z`) / DAY_MS);

/** The calendar day of a number. */
export const dayAt = (index: number): string => new Date(index * DAY_MS).toISOString().slice(0, 10);

/** Day of the week, Monday is 0. */
export const weekdayOf = (day: string): number => (dayIndex(day) + 3) % 7;

/** The calendar day of a moment where the player is. */
export const localDay = (moment: Date): string =>
  dayAt(Math.floor((moment.getTime() - moment.getTimezoneOffset() * 60_000) / DAY_MS));
