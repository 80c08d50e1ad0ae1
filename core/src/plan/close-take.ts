import type { Closing } from '../schema/closing';
import type { Drill } from '../schema/grid';
import { askedBpm } from './asked-bpm';
import { nextStart, type Outcome } from './next-start';

/** What was played in a take: what a school asked for between the drills that were chosen does not count for their tempo. */
interface PlayedTake {
  drills: readonly Pick<Drill, 'way'>[];
  repetitions: readonly (Outcome & { drill?: number })[];
}

/**
 * What a take leaves behind: its best clean tempo, the tempo it closed at (the last clean one, or else the last one
 * played) and where to start next time. Null for a take without repetitions.
 */
export const closeTake = ({ drills, repetitions: all }: PlayedTake, goalBpm: number, startBpm: number): Closing | null => {
  const repetitions = all.filter(({ drill = 0 }) => !drills[drill]?.way);
  const last = repetitions.at(-1);
  if (!last) return null;
  const cleanBpm = repetitions.filter(({ verdict }) => verdict.outcome === 'clean').map(askedBpm);
  const next = nextStart(repetitions, goalBpm, startBpm);
  return {
    bestCleanBpm: cleanBpm.length ? Math.max(...cleanBpm) : null,
    closingBpm: cleanBpm.at(-1) ?? askedBpm(last),
    nextStartBpm: next.bpm,
    nextStartWhy: next.why,
  };
};
