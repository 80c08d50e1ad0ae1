import { min } from 'd3-array';
import type { Onset } from '../schema/measures';

/** Two attacks of one pitch this close are one note that was struck twice, in seconds … */
const DOUBLED_S = 0.05;
/** … where no notes are asked for nearly as fast. */
const MIN_TIMES = 2.5;

const isSamePitch = (a: Onset, b: Onset): boolean =>
  a.pitch === undefined || b.pitch === undefined || Math.abs(a.pitch - b.pitch) < 0.5;

/**
 * Onsets with those that are one note struck twice made one: a key that bounced, a finger that came late. The first one's time
 * counts; the gap is kept. `shortestS` is the shortest step that is asked for. Onsets ascend in time.
 */
export const mergeDoubleAttacks = (onsets: readonly Onset[], shortestS: number): Onset[] => {
  const reachS = min([DOUBLED_S, shortestS / MIN_TIMES]) as number;
  const merged: Onset[] = [];
  for (const onset of onsets) {
    const before = merged.at(-1);
    const gapS = before ? onset.timeS - before.timeS : Number.POSITIVE_INFINITY;
    if (!before || before.members || onset.members || gapS >= reachS || !isSamePitch(before, onset)) merged.push(onset);
    else {
      const offS = onset.offS ?? before.offS;
      merged[merged.length - 1] = {
        ...before,
        levelDb: Math.max(before.levelDb, onset.levelDb),
        doubleAttackMs: 1000 * gapS,
        ...(offS === undefined ? {} : { offS }),
      };
    }
  }
  return merged;
};
