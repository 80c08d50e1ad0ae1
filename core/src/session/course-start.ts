import { beginSchool, schoolStart } from '../ladder/schools';
import { lineOf } from '../plan/course-of';
import { type StartTempo, startTempo } from '../plan/start-tempo';
import type { Course } from '../schema/course';
import { why } from '../schema/why';
import { clampBpm } from '../time/clamp-tempo';

/** Where the next take of a course begins: where its school says, or where the last take left it; never above the goal. */
export const courseStart = (course: Course, goalBpm = course.goalBpm): StartTempo => {
  const { schools, last } = lineOf(course);
  const own = schoolStart(beginSchool(course.schoolId, schools[course.schoolId] ?? null));
  if (own === null) return startTempo(goalBpm, last?.closing ?? null);
  const bpm = clampBpm(Math.min(goalBpm, own));
  return { bpm, why: why('start-school', { bpm }) };
};
