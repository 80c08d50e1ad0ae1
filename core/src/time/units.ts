/** Lengths of time, in milliseconds. A calendar day may be an hour longer or shorter: days are counted by their numbers (day.ts, zone.ts). */
export const MINUTE_MS = 60_000;
export const HOUR_MS = 60 * MINUTE_MS;
export const DAY_MS = 24 * HOUR_MS;
