import { notchesFrom, TRADITIONAL_MARKS } from '../time/marks';

/** A start tempo and the sentence that explains it. */
export interface StartTempo {
  bpm: number;
  reason: string;
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
    const bpm = Math.min(goalBpm, Math.max(SLOW_FLOOR_BPM, nearestMark(goalBpm / 2)));
    return { bpm, reason: `First day: half the goal of ${goalBpm}.` };
  }
  const bpm = Math.min(
    goalBpm,
    lastClosingBpm,
    Math.max(Math.min(SLOW_FLOOR_BPM, lastClosingBpm), notchesFrom(lastClosingBpm, -2)),
  );
  return { bpm, reason: `Two notches under ${lastClosingBpm}, where the last take closed.` };
};
