import { lineOf } from '../plan/practice-config';
import { type StartTempo, startTempo } from '../plan/start-tempo';
import type { PracticeConfig } from '../schema/practice-config';
import { makeReason } from '../schema/reason';
import { beginStrategy, strategyStart } from '../strategies/strategies';
import { clampBpm } from '../time/clamp-tempo';

/** Where the next take of a course begins: where its school says, or where the last take left it; never above the goal. */
export const configuredStart = (course: PracticeConfig, goalBpm = course.goalBpm): StartTempo => {
  const { schools, last } = lineOf(course);
  const own = strategyStart(beginStrategy(course.schoolId, schools[course.schoolId] ?? null));
  if (own === null) return startTempo(goalBpm, last?.closing ?? null);
  const bpm = clampBpm(Math.min(goalBpm, own));
  return { bpm, why: makeReason('start-school', { bpm }) };
};
