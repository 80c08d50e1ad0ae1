import { makeReason, type Reason } from '../schema/reason';
import { chance } from '../stats/random';
import { mean, median } from '../stats/summary';
import { dayAt, dayIndex } from '../time/day';

/** The best clean tempo of a day. */
export interface CleanDay {
  day: string;
  bestCleanBpm: number;
}

/** When a goal may be clean, with 80 %: a range of days, open at its end where that lies beyond what can be said, or why nothing can be. */
export interface GoalRange {
  from: string | null;
  to: string | null;
  why: Reason;
}

/** Fewer days, or days closer together, tell nothing. */
const MIN_DAYS = 8;
const MIN_SPAN = 14;
/** Farther ahead nothing is said. */
const HORIZON_DAYS = 180;
const STEP_DAYS = 7;
const PATHS = 600;
/** What is older counts half for each so many days. */
const HALF_LIFE_DAYS = 42;
/** Practice goes in spurts and plateaus: with this chance a week goes on as the one before it went. */
const GOES_ON = 0.6;
/** How much a player's pace of the next months may differ from the pace so far (standard deviation of its logarithm). */
const PACE_SD = 0.5;
/** Gains become rarer with time, as this power of the time gone so far over the time gone then (power law of practice). */
const SLOWS = 0.5;
const SEED = 11;

/** The level of a day: the median of its and its neighbours' best clean tempos, so that one lucky day is none. */
const levelsOf = (logs: readonly number[]): number[] => logs.map((_, k) => median(logs.slice(Math.max(0, k - 2), k + 3)));

/** The level between practice days, as a straight line. */
const levelAt = (indexes: readonly number[], levels: readonly number[], at: number): number => {
  const next = indexes.findIndex((index) => index >= at);
  if (next <= 0) return levels[next === 0 ? 0 : levels.length - 1] as number;
  const [x0, x1] = [indexes[next - 1] as number, indexes[next] as number];
  const share = (at - x0) / (x1 - x0);
  return (levels[next - 1] as number) * (1 - share) + (levels[next] as number) * share;
};

const unknown = (why: Reason): GoalRange => ({ from: null, to: null, why });

/**
 * A range of days in which a goal may be clean for the first time, from the best clean tempo of each day so far (in order): the gains
 * of weeks are drawn again from those that were made, in spurts and plateaus as they came, the newer ones more often, slowing
 * down as more is gained. Between the ends lie 80 % of such futures. Says when it cannot know.
 */
export const goalRange = (history: readonly CleanDay[], goalBpm: number, today: string): GoalRange => {
  const last = history.at(-1);
  const first = history[0];
  if (last && Math.max(...history.map(({ bestCleanBpm }) => bestCleanBpm)) >= goalBpm)
    return unknown(makeReason('goal-was-clean'));
  if (!first || !last || history.length < MIN_DAYS || dayIndex(last.day) - dayIndex(first.day) < MIN_SPAN)
    return unknown(makeReason('goal-too-few', { days: history.length, needed: MIN_DAYS }));
  const indexes = history.map(({ day }) => dayIndex(day));
  const logs = history.map(({ bestCleanBpm }) => Math.log(bestCleanBpm));
  const levels = levelsOf(logs);
  const unsteadiness = Math.sqrt(mean(logs.map((log, k) => (log - (levels[k] as number)) ** 2)));
  const end = indexes.at(-1) as number;
  const begin = indexes[0] as number;
  // Gains of each stretch of a week, by the day on which it ends.
  const gains: { gain: number; weight: number }[] = [];
  for (let at = begin + STEP_DAYS; at <= end; at += 1)
    gains.push({
      gain: levelAt(indexes, levels, at) - levelAt(indexes, levels, at - STEP_DAYS),
      weight: 0.5 ** ((end - at) / HALF_LIFE_DAYS),
    });
  const total = gains.reduce((sum, { weight }) => sum + weight, 0);
  const { uniform, normal } = chance(SEED);
  const draw = (): number => {
    let rest = uniform() * total;
    const place = gains.findIndex(({ weight }) => {
      rest -= weight;
      return rest <= 0;
    });
    return Math.max(0, place);
  };
  const spanDays = end - begin;
  const goal = Math.log(goalBpm);
  const now = levels.at(-1) as number;
  const sinceDays = Math.max(0, dayIndex(today) - end);
  const reached = Array.from({ length: PATHS }, () => {
    const pace = Math.exp(PACE_SD * normal());
    let level = now;
    // The present spurt or plateau may go on.
    let place = uniform() < GOES_ON ? gains.length - 1 : draw();
    for (let week = 0; week * STEP_DAYS < HORIZON_DAYS; week += 1) {
      if (uniform() > GOES_ON) place = draw();
      const slowing = (spanDays / (spanDays + week * STEP_DAYS)) ** SLOWS;
      const gain = pace * slowing * (gains[place]?.gain ?? 0);
      const best = unsteadiness * Math.max(normal(), normal(), normal());
      if (level + gain + best >= goal) {
        const missing = goal - level - best;
        const share = gain > 0 ? Math.min(1, Math.max(0, missing / gain)) : uniform();
        return STEP_DAYS * (week + share);
      }
      level += gain;
    }
    return Number.POSITIVE_INFINITY;
  }).sort((a, b) => a - b);
  const early = reached[Math.floor(0.1 * PATHS)] as number;
  const late = reached[Math.floor(0.9 * PATHS)] as number;
  if (!Number.isFinite(early)) return unknown(makeReason('goal-not-in-sight', { months: Math.round(HORIZON_DAYS / 30) }));
  const dayOf = (days: number) => dayAt(dayIndex(today) + Math.max(1, Math.round(days - sinceDays)));
  const values = { goal: goalBpm, days: history.length };
  if (!Number.isFinite(late)) return { from: dayOf(early), to: null, why: makeReason('goal-not-before', values) };
  return { from: dayOf(early), to: dayOf(late), why: makeReason('goal-range', values) };
};
