import type { Drill } from '../schema/grid';
import type { TakeSummary } from '../schema/take-summary';
import { askedBpm } from './asked-bpm';
import { type JudgedRepetition, nextStart } from './next-start';
import { strategyStartTempo } from './start-tempo';

/** What was played in a take: what a strategy asked for between the drills that were chosen does not count for their tempo. */
interface PlayedTake {
  drills: readonly Pick<Drill, 'repetitionKind'>[];
  repetitions: readonly (JudgedRepetition & { drill?: number })[];
}

/**
 * What a take leaves behind: its best clean tempo, the tempo it closed at (the last clean one, or else the last one
 * played) and where to start next time, which its strategy may say by itself (`ownStartBpm`). Null for a take without repetitions.
 */
export const summariseTake = (
  { drills, repetitions: all }: PlayedTake,
  goalBpm: number,
  startBpm: number,
  ownStartBpm: number | null = null,
): TakeSummary | null => {
  const repetitions = all.filter(({ drill = 0 }) => !drills[drill]?.repetitionKind);
  const last = repetitions.at(-1);
  if (!last) return null;
  const cleanBpm = repetitions.filter(({ verdict }) => verdict.outcome === 'clean').map(askedBpm);
  const next = ownStartBpm === null ? nextStart(repetitions, goalBpm, startBpm) : strategyStartTempo(ownStartBpm, goalBpm);
  return {
    bestCleanBpm: cleanBpm.length ? Math.max(...cleanBpm) : null,
    closingBpm: cleanBpm.at(-1) ?? askedBpm(last),
    nextStartBpm: next.bpm,
    nextStartWhy: next.why,
  };
};
