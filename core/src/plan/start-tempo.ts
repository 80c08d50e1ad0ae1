import { makeReason, type Reason } from '../schema/reason';
import type { TakeSummary } from '../schema/take-summary';
import { clampBpm } from '../time/clamp-tempo';
import { TRADITIONAL_MARKS } from '../time/marks';

/** A start tempo and its reason. */
export interface StartTempo {
  bpm: number;
  why: Reason;
}

/** Slower than this a beat is hard to feel (common practice, no source). */
export const SLOW_FLOOR_BPM = 40;

const nearestMark = (bpm: number): number =>
  TRADITIONAL_MARKS.reduce((best, mark) => (Math.abs(mark - bpm) < Math.abs(best - bpm) ? mark : best));

/**
 * Where to begin: on the first day half the goal, at a traditional mark, but not under a slow floor (unless the goal itself is). Later
 * where the last take said, and never above the goal.
 */
export const startTempo = (goalBpm: number, last: Pick<TakeSummary, 'nextStartBpm' | 'nextStartWhy'> | null): StartTempo => {
  if (last && last.nextStartBpm <= goalBpm) return { bpm: clampBpm(last.nextStartBpm), why: last.nextStartWhy };
  if (last) return { bpm: clampBpm(goalBpm), why: makeReason('start-goal') };
  const half = nearestMark(goalBpm / 2);
  const bpm = clampBpm(Math.min(goalBpm, Math.max(SLOW_FLOOR_BPM, half)));
  if (bpm === goalBpm) return { bpm, why: makeReason('start-goal') };
  return {
    bpm,
    why:
      bpm > half || half > goalBpm / 2 + 4
        ? makeReason('start-floor', { bpm })
        : makeReason('start-half-goal', { goal: goalBpm }),
  };
};

/** Where a strategy stands by itself, never above the goal. */
export const strategyStartTempo = (ownBpm: number, goalBpm: number): StartTempo => {
  const bpm = clampBpm(Math.min(goalBpm, ownBpm));
  // Stored with takes: its code keeps its first name.
  return { bpm, why: makeReason('start-school', { bpm }) };
};
