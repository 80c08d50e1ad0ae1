import type { Closing } from '../schema/closing';
import { headlineBpm } from '../time/tempo-map';
import { nextStart, type Outcome } from './next-start';

/**
 * What a take leaves behind: its best clean tempo, the tempo it closed at (the last clean one, or else the last one
 * played) and where to start next time. Null for a take without repetitions.
 */
export const closeTake = (repetitions: readonly Outcome[], goalBpm: number, startBpm: number): Closing | null => {
  const last = repetitions.at(-1);
  if (!last) return null;
  const cleanBpm = repetitions.filter(({ verdict }) => verdict.outcome === 'clean').map(({ tempo }) => headlineBpm(tempo));
  const next = nextStart(repetitions, goalBpm, startBpm);
  return {
    bestCleanBpm: cleanBpm.length ? Math.max(...cleanBpm) : null,
    closingBpm: cleanBpm.at(-1) ?? headlineBpm(last.tempo),
    nextStartBpm: next.bpm,
    nextStartWhy: next.why,
  };
};
