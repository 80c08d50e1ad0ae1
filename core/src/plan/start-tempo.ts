import { type Why, why } from '../schema/why';
import { clampBpm } from '../time/clamp-tempo';
import { notchesFrom, TRADITIONAL_MARKS } from '../time/marks';

/** A start tempo and its reason. */
export interface StartTempo {
  bpm: number;
  why: Why;
}

/** Slower than this a beat is hard to feel (common practice, no source). */
const SLOW_FLOOR_BPM = 40;

const nearestMark = (bpm: number): number =>
  TRADITIONAL_MARKS.reduce((best, mark) => (Math.abs(mark - bpm) < Math.abs(best - bpm) ? mark : best));

/**
 * Where to begin: on the first day half the goal, at a traditional mark, but not under a slow floor (unless the goal
 * itself is). Later: two notches under the last closing tempo, and never above the goal.
 */
export const startTempo = (goalBpm: number, lastClosingBpm: number | null): StartTempo => {
  if (lastClosingBpm === null) {
    const bpm = clampBpm(Math.min(goalBpm, Math.max(SLOW_FLOOR_BPM, nearestMark(goalBpm / 2))));
    return { bpm, why: why('start-half-goal', { goal: goalBpm }) };
  }
  const bpm = Math.min(
    goalBpm,
    lastClosingBpm,
    Math.max(Math.min(SLOW_FLOOR_BPM, lastClosingBpm), notchesFrom(lastClosingBpm, -2)),
  );
  return { bpm: clampBpm(bpm), why: why('start-under-closing', { closing: lastClosingBpm }) };
};
