import type { Course } from '../schema/course';
import type { Passage } from '../schema/passage';
import { type Why, why } from '../schema/why';

/** One line of today's plan. */
export interface PlannedPassage {
  passage: Passage;
  why: Why;
}

/**
 * Today's order: what is under way and was left the longest comes first, then what was never played, then what has
 * reached its goal.
 */
export const planToday = (passages: readonly Passage[], courses: readonly Course[]): PlannedPassage[] => {
  const courseFor = (passage: Passage) => courses.find((course) => course.passageId === passage.id && course.last);
  const groupOf = (passage: Passage): { group: number; why: Why } => {
    const course = courseFor(passage);
    if (!course?.last) return { group: 1, why: why('today-new') };
    const isThere = (course.last.closing.bestCleanBpm ?? 0) >= course.goalBpm;
    return isThere ? { group: 2, why: why('today-goal-clean') } : { group: 0, why: why('today-under-way') };
  };
  return passages
    .map((passage) => ({ passage, ...groupOf(passage), lastAt: courseFor(passage)?.last?.startedAt ?? '' }))
    .sort((a, b) => a.group - b.group || a.lastAt.localeCompare(b.lastAt) || a.passage.title.localeCompare(b.passage.title))
    .map(({ passage, why: reason }) => ({ passage, why: reason }));
};
