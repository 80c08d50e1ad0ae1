import { DAY_MS, ownZone, ZoneSchema, zoneOffsets } from '@isochron/core/schema';
import type { Request } from 'express';

/** The time zone of whoever asks, by the header `Time-Zone`; the server's own where none is named. */
export const zoneOf = (request: Request): string => {
  const named = request.get('Time-Zone');
  return named === undefined ? ownZone() : ZoneSchema.parse(named);
};

/** Before this nobody's practice was stored. */
const FIRST_MS = Date.UTC(1970, 0, 1);
const LAST_MS = Date.UTC(2200, 0, 1);
const YEARS_BACK_MS = 40 * 366 * DAY_MS;

const known = new Map<string, string>();

/**
 * The offset from UTC that holds in a zone at a moment, as a modifier of SQLite's functions of time. Those of the last decades stand in
 * it, in a tree, so that a row is compared with a few of them only.
 */
const offsetSql = (zone: string, column: string, nowMs: number): string => {
  const year = new Date(nowMs).getUTCFullYear();
  const key = `${zone} ${column} ${year}`;
  const made = known.get(key);
  if (made) return made;
  const from = Math.max(FIRST_MS, Math.min(nowMs, LAST_MS) - YEARS_BACK_MS);
  const offsets = zoneOffsets(zone, from, Date.UTC(year + 2, 0, 1));
  const tree = (low: number, high: number): string => {
    if (low === high) return `'${offsets[low]?.offsetMin ?? 0} minutes'`;
    const middle = Math.ceil((low + high) / 2);
    const begins = new Date(offsets[middle]?.fromMs ?? 0).toISOString();
    return `CASE WHEN ${column} < '${begins}' THEN ${tree(low, middle - 1)} ELSE ${tree(middle, high)} END`;
  };
  const sql = tree(0, offsets.length - 1);
  known.set(key, sql);
  return sql;
};

/** An expression of SQL for the calendar day of a moment in a zone, as YYYY-MM-DD. */
export const daySql = (zone: string, column: string, nowMs: number): string =>
  `date(${column}, ${offsetSql(zone, column, nowMs)})`;

/** The same as a number of days since 1970: many rows are grouped by it in less than half the time. */
export const dayNumberSql = (zone: string, column: string, nowMs: number): string =>
  `unixepoch(${column}, ${offsetSql(zone, column, nowMs)}) / 86400`;
