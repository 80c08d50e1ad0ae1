import type { Closing } from '../schema/closing';
import type { Repetition } from '../schema/take';
import { headlineBpm } from '../time/tempo-map';
import { startTempo } from './start-tempo';

/**
 * What a take leaves behind: its best clean tempo, the tempo it closed at (the last clean one, or else the last one
 * played) and where to start next time. Null for a take without repetitions.
 */
export const closeTake = (repetitions: readonly Pick<Repetition, 'tempo' | 'verdict'>[], goalBpm: number): Closing | null => {
  const last = repetitions.at(-1);
  if (!last) return null;
  const cleanBpm = repetitions.filter(({ verdict }) => verdict.outcome === 'clean').map(({ tempo }) => headlineBpm(tempo));
  const closingBpm = cleanBpm.at(-1) ?? headlineBpm(last.tempo);
  const next = startTempo(goalBpm, closingBpm);
  return {
    bestCleanBpm: cleanBpm.length ? Math.max(...cleanBpm) : null,
    closingBpm,
    nextStartBpm: next.bpm,
    nextStartWhy: next.why,
  };
};
