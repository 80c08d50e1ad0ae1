import type { Course } from '../schema/course';
import { type Why, why } from '../schema/why';
import { lastPlayedAt } from './course-of';

/** One line of today's plan. */
export interface PlannedPassage<Shown> {
  passage: Shown;
  why: Why;
}

/**
 * Today's order: what is under way and was left the longest comes first, then what was never played, then what has
 * reached its goal.
 */
export const planToday = <Shown extends { id: string; title: string }>(
  passages: readonly Shown[],
  courses: readonly Course[],
): PlannedPassage<Shown>[] => {
  const courseFor = (passage: Shown) => courses.find((course) => course.passageId === passage.id && lastPlayedAt(course));
  const groupOf = (passage: Shown): { group: number; why: Why } => {
    const course = courseFor(passage);
    if (!course) return { group: 1, why: why('today-new') };
    const isThere = (course.last?.closing.bestCleanBpm ?? 0) >= course.goalBpm;
    return isThere ? { group: 2, why: why('today-goal-clean') } : { group: 0, why: why('today-under-way') };
  };
  return passages
    .map((passage) => ({ passage, ...groupOf(passage), lastAt: lastPlayedAt(courseFor(passage)) }))
    .sort((a, b) => a.group - b.group || a.lastAt.localeCompare(b.lastAt) || a.passage.title.localeCompare(b.passage.title))
    .map(({ passage, why: reason }) => ({ passage, why: reason }));
};
