import type { Repetition } from '../schema/take';
import { askedBpm } from './asked-bpm';

/** Slow is at most this share of the player's own edge (common practice, no source). */
export const SLOW_SHARE = 0.85;
/** Where no edge is known, fast is within a tenth of the goal (common practice, no source). */
const FAST_OF_GOAL = 0.9;

type Judged = Pick<Repetition, 'tempo' | 'askedBpm'> & { verdict: Pick<Repetition['verdict'], 'outcome'> };

/**
 * The tempo above which repetitions were mostly not clean, and below which they were, in quarter notes a minute: the one that has the
 * fewest of them on the wrong side, in the middle of all that have as few. Null where the fewest are on the wrong side with nothing above it: the
 * edge was not reached. 0 where nothing below it was clean.
 */
export const edgeAmong = (repetitions: readonly Judged[]): number | null => {
  const judged = repetitions
    .filter(({ verdict }) => verdict.outcome !== 'not-judged')
    .map((one) => ({ bpm: askedBpm(one), isClean: one.verdict.outcome === 'clean' }));
  const tempos = [...new Set(judged.map(({ bpm }) => bpm))].sort((a, b) => a - b);
  const wrongAt = (edgeBpm: number) => judged.filter(({ bpm, isClean }) => isClean !== bpm < edgeBpm).length;
  // An edge lies between two tempos, or beside all of them.
  const edges = [...tempos, Infinity].map((above, k) => ({ above, below: tempos[k - 1] ?? 0, wrong: wrongAt(above) }));
  const least = Math.min(...edges.map(({ wrong }) => wrong));
  const best = edges.filter(({ wrong }) => wrong === least);
  const [first, last] = [best[0], best.at(-1)];
  if (!first || !last || last.above === Infinity) return null;
  return (first.below + last.above) / 2;
};

/** The fastest tempo that is slow for a player, by the edge, or by the goal where none is known. */
export const slowUpToBpm = (goalBpm: number, edgeBpm: number | null): number =>
  edgeBpm === null ? Math.ceil(FAST_OF_GOAL * goalBpm) - 1 : SLOW_SHARE * edgeBpm;
