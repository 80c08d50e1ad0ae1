import type { ProgressRepetitions } from '../schema/api';
import { type Estimate, meanEstimate } from '../stats/interval-estimate';
import { mean, sampleSd } from '../stats/summary';
import { dayAt, dayIndex } from '../time/day';
import { type TempoRange, tempoCurve } from './tempo-curve';
import { triedFrom } from './unsteadiness-fit';

/** Stretches of so many days are looked at, and so many of them at most. */
const PERIOD_DAYS = [7, 28, 91, 182, 364] as const;
const MAX_PERIODS = 56;

/** How long the stretches are into which the days from one to another are cut: as short as leaves few enough of them. */
export const periodDaysFor = (from: string, to: string): number => {
  const days = dayIndex(to) - dayIndex(from) + 1;
  return PERIOD_DAYS.find((length) => days / length <= MAX_PERIODS) ?? Math.ceil(days / MAX_PERIODS);
};

/** What a stretch of days tells of a passage's tempos. */
export interface ProgressPoint {
  /** Its first day. */
  from: string;
  /** Clean nine times in ten, and every other time; null where its repetitions do not tell. */
  easy: TempoRange | null;
  edge: TempoRange | null;
  /** Where its last sweep that broke did so. */
  broke: TempoRange | null;
  bestCleanBpm: number | null;
  /** Spread at one tempo, the same for all stretches: the mean with its 95 % interval, in ms. */
  spreadMs: Estimate | null;
}

export interface Progress {
  points: ProgressPoint[];
  /** The tempos at which the spread is compared; null where no tempo was played in two stretches. */
  spreadAround: { lowBpm: number; highBpm: number } | null;
}

type Try = ProgressRepetitions['repetitions'][number];

/** Tempos as near to each other as this, high against low, are as one for the spread. */
const SAME_TEMPO = 1.08;
/** A stretch has a spread from so many repetitions on. */
const MIN = 3;

const isAsked = ({ repetitionKind, outcome }: Try) => repetitionKind === null && outcome !== 'not-judged';
const inBand = (low: number) => (one: Try) => one.spreadMs !== null && one.bpm >= low && one.bpm <= low * SAME_TEMPO;

/** The tempos that were played in the most stretches, of several those played most often. */
const commonTempo = (periods: readonly (readonly Try[])[]): { lowBpm: number; highBpm: number } | null => {
  const lows = [...new Set(periods.flat().map(({ bpm }) => bpm))];
  const counted = lows.map((low) => {
    const found = periods.map((own) => own.filter(inBand(low)).length).filter((count) => count >= MIN);
    return { low, stretches: found.length, played: found.reduce((sum, count) => sum + count, 0) };
  });
  const isMore = (one: (typeof counted)[number], other: (typeof counted)[number]) =>
    one.stretches > other.stretches || (one.stretches === other.stretches && one.played > other.played);
  const most = counted.reduce((best, one) => (isMore(one, best) ? one : best), {
    low: 0,
    stretches: 1,
    played: Number.POSITIVE_INFINITY,
  });
  return most.low ? { lowBpm: most.low, highBpm: most.low * SAME_TEMPO } : null;
};

const spreadOf = (own: readonly Try[], band: { lowBpm: number } | null): Estimate | null => {
  const spreads = band ? own.filter(inBand(band.lowBpm)).map(({ spreadMs }) => spreadMs as number) : [];
  return spreads.length >= MIN ? meanEstimate(mean(spreads), sampleSd(spreads), spreads.length) : null;
};

const brokeIn = (own: readonly Try[]): TempoRange | null => {
  const last = own.findLast(({ repetitionKind, breakBpm }) => repetitionKind === 'sweep' && breakBpm !== null);
  if (!last || last.breakBpm === null) return null;
  return { bpm: last.breakBpm, low: last.breakLow ?? last.breakBpm, high: last.breakHigh ?? last.breakBpm };
};

/** Easy, edge, break and best clean tempo of each stretch of days, and the spread at one tempo. Stretches without repetitions are left out. */
export const progressOf = ({ from, periodDays, repetitions }: ProgressRepetitions): Progress => {
  const last = repetitions.reduce((most, { period }) => Math.max(most, period), -1);
  const all = Array.from({ length: last + 1 }, (_, period) => repetitions.filter((one) => one.period === period));
  const asked = all.map((own) => own.filter(isAsked));
  const band = commonTempo(asked);
  const points = all.flatMap((own, period): ProgressPoint[] => {
    if (own.length === 0) return [];
    const judged = asked[period] as Try[];
    const curve = tempoCurve(judged.map((one) => triedFrom(one, 1)));
    const clean = judged.filter(({ outcome }) => outcome === 'clean').map(({ bpm }) => bpm);
    return [
      {
        from: dayAt(dayIndex(from) + period * periodDays),
        easy: curve?.easy() ?? null,
        edge: curve?.edge() ?? null,
        broke: brokeIn(own),
        bestCleanBpm: clean.length ? Math.max(...clean) : null,
        spreadMs: spreadOf(judged, band),
      },
    ];
  });
  return { points, spreadAround: band };
};
