import { askedBpm } from '../plan/asked-bpm';
import type { Repetition } from '../schema/take';
import { studentTQuantile } from '../stats/interval-estimate';
import { mean, median, total } from '../stats/summary';

/** So many repetitions over so wide a range of tempos tell, where at most this share of them was clean. Our choice. */
const [MIN_TRIED, MIN_RANGE, MOST_CLEAN] = [6, 1.3, 1 / 3];
/**
 * Whose spread shrinks with the tempo at least as much as the tempo itself gets steadier by going slower; beyond their edge players do by one and a half times
 * that and more. Our choice.
 */
const HELPS = 1;
const SURE = 0.95;

export interface FloorFound {
  slowBpm: number;
  fastBpm: number;
  spreadMs: number;
}

/**
 * Whether a player is about as unsteady slow as fast, in repetitions that were mostly not clean: then going slower makes the window
 * wider, and nobody steadier. By the slope of the logarithm of the spread over that of the tempo. Tempos are quarter notes a minute. Null
 * where slower helped, or may have.
 */
export const unsteadyAtAnyTempo = (
  repetitions: readonly Pick<Repetition, 'drill' | 'tempo' | 'askedBpm' | 'measures' | 'verdict'>[],
): FloorFound | null => {
  const drill = repetitions.at(-1)?.drill;
  const tried = repetitions.flatMap((one) => {
    const { spreadMs } = one.measures;
    if (one.drill !== drill || one.verdict.outcome === 'not-judged' || !spreadMs || spreadMs.value <= 0) return [];
    return [{ bpm: askedBpm(one), spreadMs: spreadMs.value, isClean: one.verdict.outcome === 'clean' }];
  });
  const bpms = tried.map(({ bpm }) => bpm);
  const [slowBpm, fastBpm] = [Math.min(...bpms), Math.max(...bpms)];
  const clean = tried.filter(({ isClean }) => isClean).length;
  if (tried.length < MIN_TRIED || fastBpm < MIN_RANGE * slowBpm || clean > MOST_CLEAN * tried.length) return null;
  const x = bpms.map(Math.log);
  const y = tried.map(({ spreadMs }) => Math.log(spreadMs));
  const [middleX, middleY] = [mean(x), mean(y)];
  const squares = total(x.map((one) => (one - middleX) ** 2));
  const slope = total(x.map((one, k) => (one - middleX) * ((y[k] as number) - middleY))) / squares;
  const rest = total(x.map((one, k) => ((y[k] as number) - middleY - slope * (one - middleX)) ** 2)) / (tried.length - 2);
  if (slope + studentTQuantile(SURE, tried.length - 2) * Math.sqrt(rest / squares) >= HELPS) return null;
  return { slowBpm, fastBpm, spreadMs: median(tried.map(({ spreadMs }) => spreadMs)) };
};
