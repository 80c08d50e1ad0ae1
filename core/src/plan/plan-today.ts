import type { Exercise } from '../schema/exercise';
import type { TakeSummary } from '../schema/take';

/** One line of today's plan. */
export interface PlannedExercise {
  exercise: Exercise;
  why: string;
}

/**
 * Today's order: what is under way and was left the longest comes first, then what was never played, then what has
 * reached its goal. `takes` are newest first.
 */
export const planToday = (exercises: readonly Exercise[], takes: readonly TakeSummary[]): PlannedExercise[] => {
  const lastOf = (exercise: Exercise) => takes.find((take) => take.exerciseId === exercise.id && take.closing !== null);
  const groupOf = (exercise: Exercise): { group: number; why: string } => {
    const last = lastOf(exercise);
    if (!last) return { group: 1, why: 'New.' };
    const isThere = (last.closing?.bestCleanBpm ?? 0) >= last.goalBpm;
    return isThere ? { group: 2, why: 'The goal was clean last time.' } : { group: 0, why: 'Under way.' };
  };
  return exercises
    .map((exercise) => ({ exercise, ...groupOf(exercise), lastAt: lastOf(exercise)?.startedAt ?? '' }))
    .sort((a, b) => a.group - b.group || a.lastAt.localeCompare(b.lastAt) || a.exercise.title.localeCompare(b.exercise.title))
    .map(({ exercise, why }) => ({ exercise, why }));
};
