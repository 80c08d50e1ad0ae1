import { mean, sampleSd } from '../stats/summary';

/** How even beats are of themselves: the tempo, how far it drifts, and how far single beats lie off it. */
export interface BeatEvenness {
  bpm: number;
  slowestBpm: number;
  fastestBpm: number;
  /** Standard deviation of beats about the middle of their neighbours, in ms: what no player could follow. */
  unsteadinessMs: number;
}

const AROUND = 4;

/** How even beats are; null for fewer than four. */
export const beatEvenness = (timesS: readonly number[]): BeatEvenness | null => {
  if (timesS.length < 4) return null;
  const steps = timesS.slice(1).map((timeS, k) => timeS - (timesS[k] as number));
  const local = steps.map((_, k) => mean(steps.slice(Math.max(0, k - AROUND), k + AROUND + 1)));
  const tempos = local.map((stepS) => 60 / stepS);
  // A beat against the middle of its neighbours: one such difference holds 1.5 times the variance of a single beat.
  const bends = timesS.slice(1, -1).map((timeS, k) => timeS - ((timesS[k] as number) + (timesS[k + 2] as number)) / 2);
  return {
    bpm: 60 / mean(steps),
    slowestBpm: Math.min(...tempos),
    fastestBpm: Math.max(...tempos),
    unsteadinessMs: (1000 * sampleSd(bends)) / Math.sqrt(1.5),
  };
};
