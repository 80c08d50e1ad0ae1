import type { TempoHistory } from '../schema/api';
import type { PracticeConfig } from '../schema/practice-config';
import { makeReason, type Reason } from '../schema/reason';
import { median } from '../stats/summary';
import { dayIndex } from '../time/day';

/** A strategy that suits where a passage stands, and why. */
export interface Proposal {
  strategyId: string;
  why: Reason;
}

/** Within this share of the goal it is near. */
const NEAR_GOAL = 0.9;
/** The best clean tempo of so many practised days without a gain of this share: stuck. */
const [STUCK_DAYS, STUCK_GAIN] = [5, 0.02];
/** A break is so many days. */
const BREAK_DAYS = 14;
/** What has fewer practised days than this is new. */
const NEW_DAYS = 2;

/** Proposes a tempo strategy for a passage from its days: each with its best clean tempo, in order. Common practice, no source. */
export const proposeStrategy = ({ goalBpm }: Pick<PracticeConfig, 'goalBpm'>, days: TempoHistory, today: string): Proposal => {
  const last = days.at(-1);
  if (!last || days.length < NEW_DAYS) return { strategyId: 'half-speed-climb', why: makeReason('propose-new') };
  const away = dayIndex(today) - dayIndex(last.day);
  if (away >= BREAK_DAYS) return { strategyId: 'adaptive', why: makeReason('propose-break', { days: away }) };
  const best = Math.max(...days.slice(-STUCK_DAYS).map(({ bestCleanBpm }) => bestCleanBpm));
  if (best >= goalBpm) return { strategyId: 'beyond-the-goal', why: makeReason('propose-beyond', { best }) };
  if (best >= NEAR_GOAL * goalBpm)
    return { strategyId: 'notch-by-notch', why: makeReason('propose-near', { best, goal: goalBpm }) };
  // Against the days just before, not an old lucky one.
  const before = days.slice(-2 * STUCK_DAYS, -STUCK_DAYS).map(({ bestCleanBpm }) => bestCleanBpm);
  if (
    before.length > 0 &&
    median(days.slice(-STUCK_DAYS).map(({ bestCleanBpm }) => bestCleanBpm)) <= (1 + STUCK_GAIN) * median(before)
  )
    return {
      strategyId: 'below-the-break',
      why: makeReason('propose-stuck', { days: STUCK_DAYS, best: Math.max(best, ...before) }),
    };
  return { strategyId: 'half-speed-climb', why: makeReason('propose-climb') };
};
