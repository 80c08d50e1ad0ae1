import type { PassageRepetitions } from '../schema/api';
import { makeReason, type Reason } from '../schema/reason';
import { median } from '../stats/summary';
import { localDay } from '../time/day';
import type { TempoRange } from './tempo-curve';

/** Where the newest sweep that broke did so; null where none did. */
export const lastBreak = (repetitions: PassageRepetitions): TempoRange | null => {
  const newest = repetitions.findLast(({ repetitionKind, breakBpm }) => repetitionKind === 'sweep' && breakBpm !== null);
  if (!newest?.breakBpm) return null;
  return { bpm: newest.breakBpm, low: newest.breakLow ?? newest.breakBpm, high: newest.breakHigh ?? newest.breakBpm };
};

/** The two tempos of a day: the fastest clean one that was climbed to, and that of the even bursts. */
export interface BothSides {
  /** The day, as YYYY-MM-DD. */
  day: string;
  structuredBpm: number;
  burstBpm: number;
}

/** Days on which a passage was practised from both sides, in order of time. */
export const bothSides = (repetitions: PassageRepetitions): BothSides[] => {
  const days = new Map<string, { structured: number[]; bursts: number[] }>();
  for (const { startedAt, repetitionKind, outcome, bpm } of repetitions) {
    const day = localDay(new Date(startedAt));
    const own = days.get(day) ?? { structured: [], bursts: [] };
    days.set(day, own);
    if (repetitionKind === null && outcome === 'clean') own.structured.push(bpm);
    if (repetitionKind === 'burst' && (outcome === 'clean' || outcome === 'close')) own.bursts.push(bpm);
  }
  return [...days].flatMap(([day, { structured, bursts }]) =>
    structured.length && bursts.length ? [{ day, structuredBpm: Math.max(...structured), burstBpm: median(bursts) }] : [],
  );
};

/** How far the two tempos lie apart now, and how far they did at first; null before the first day. */
export const bothSidesReason = (days: readonly BothSides[]): Reason | null => {
  const [first, last] = [days[0], days.at(-1)];
  if (!first || !last) return null;
  const gap = ({ structuredBpm, burstBpm }: BothSides) => Math.round(burstBpm - structuredBpm);
  const now = { structured: Math.round(last.structuredBpm), burst: Math.round(last.burstBpm), gap: gap(last) };
  return first === last ? makeReason('sides-one-day', now) : makeReason('sides', { ...now, before: gap(first) });
};
