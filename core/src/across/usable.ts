import type { Repetition } from '../schema/take';

/** Fewer repetitions than this show no pattern. */
export const MIN_REPETITIONS = 3;

/** The repetitions that say something about the playing: judged, and not broken off. */
export const usableRepetitions = (repetitions: readonly Repetition[]): Repetition[] =>
  repetitions.filter(({ verdict }) => verdict.outcome !== 'not-judged' && verdict.outcome !== 'broken');
