import { dayIndex } from './day';
import { DAY_MS, MINUTE_MS } from './units';

const formats = new Map<string, Intl.DateTimeFormat>();

const formatOf = (zone: string): Intl.DateTimeFormat => {
  const known = formats.get(zone);
  if (known) return known;
  const made = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    hourCycle: 'h23',
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
  });
  formats.set(zone, made);
  return made;
};

/** The time zone that this program runs in. */
export const ownZone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone;

/** How far a zone's clocks are ahead of universal time at a moment, in minutes. */
export const zoneOffsetMin = (zone: string, atMs: number): number => {
  const parts = new Map(
    formatOf(zone)
      .formatToParts(atMs)
      .map(({ type, value }) => [type, Number(value)]),
  );
  const part = (type: Intl.DateTimeFormatPartTypes) => parts.get(type) as number;
  const local = Date.UTC(part('year'), part('month') - 1, part('day'), part('hour'), part('minute'));
  return Math.round((local - Math.floor(atMs / MINUTE_MS) * MINUTE_MS) / MINUTE_MS);
};

/** From a moment on a zone's clocks are so far ahead of universal time. */
export interface ZoneOffset {
  fromMs: number;
  offsetMin: number;
}

/** The offsets of a zone's clocks between two moments, in order of time; the first holds from the first moment on. */
export const zoneOffsets = (zone: string, fromMs: number, toMs: number): ZoneOffset[] => {
  const found: ZoneOffset[] = [{ fromMs, offsetMin: zoneOffsetMin(zone, fromMs) }];
  for (let at = fromMs; at < toMs; at += DAY_MS) {
    const before = found.at(-1) as ZoneOffset;
    const offsetMin = zoneOffsetMin(zone, Math.min(toMs, at + DAY_MS));
    if (offsetMin === before.offsetMin) continue;
    // Between the two, to the minute.
    let [low, high] = [at, Math.min(toMs, at + DAY_MS)];
    while (high - low > MINUTE_MS) {
      const middle = Math.floor((low + high) / (2 * MINUTE_MS)) * MINUTE_MS;
      if (middle <= low) break;
      if (zoneOffsetMin(zone, middle) === before.offsetMin) low = middle;
      else high = middle;
    }
    found.push({ fromMs: high, offsetMin });
  }
  return found;
};

/** The calendar day (YYYY-MM-DD) of a moment in a zone. */
export const dayInZone = (zone: string, atMs: number): string =>
  new Date(atMs + zoneOffsetMin(zone, atMs) * MINUTE_MS).toISOString().slice(0, 10);

/** The moment at which a calendar day begins in a zone, in ms since 1970; where its midnight is left out, the first moment after it. */
export const dayStartMs = (zone: string, day: string): number => {
  const midnight = dayIndex(day) * DAY_MS;
  // The offset before and after a change of clocks: the earlier of the two that lies on the day.
  const tries = [-DAY_MS, DAY_MS].map((away) => midnight - zoneOffsetMin(zone, midnight + away) * MINUTE_MS);
  const onDay = tries.filter((atMs) => dayInZone(zone, atMs) === day && dayInZone(zone, atMs - MINUTE_MS) !== day);
  return Math.min(...(onDay.length > 0 ? onDay : tries));
};
