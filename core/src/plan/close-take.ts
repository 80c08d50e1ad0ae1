import type { Closing, Repetition } from '../schema/take';
import { startTempo } from './start-tempo';

/**
 * What a take leaves behind: its best clean tempo, the tempo it closed at (the last clean one, or else the last one
 * played) and where to start next time. Null for a take without repetitions.
 */
export const closeTake = (repetitions: readonly Repetition[], goalBpm: number): Closing | null => {
  const last = repetitions.at(-1);
  if (!last) return null;
  const clean = repetitions.filter((repetition) => repetition.verdict.outcome === 'clean');
  const closingBpm = clean.at(-1)?.tempoBpm ?? last.tempoBpm;
  const next = startTempo(goalBpm, closingBpm);
  return {
    bestCleanBpm: clean.length ? Math.max(...clean.map((repetition) => repetition.tempoBpm)) : null,
    closingBpm,
    nextStartBpm: next.bpm,
    nextStartReason: next.reason,
  };
};
