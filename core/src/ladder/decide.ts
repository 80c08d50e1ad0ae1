import type { Decision } from '../schema/take';
import { guardRuling, problemRuling } from './guards';
import type { Course, Memory, Played, School } from './school';

/** The next tempo after a repetition: the guards first, then the school, then the guard against endless failing. */
export const decide = <State extends Memory>(
  school: School<State>,
  state: State,
  played: Played,
  course: Course,
): { state: State; decision: Decision } => {
  const ruling = guardRuling(played);
  if (ruling) return { state, decision: { ...ruling, overruled: false } };
  const next = school.decide(state, played, course);
  const problem = problemRuling(next.state.failedInARow, next.decision.nextTempoBpm);
  if (problem) return { state: { ...next.state, failedInARow: 0 }, decision: { ...problem, overruled: false } };
  return { state: next.state, decision: { ...next.decision, overruled: false } };
};
