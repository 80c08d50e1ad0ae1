import type { Decision, Ease } from '../schema/take';
import type { Verdict } from '../schema/verdict';

/** What a school is told of the repetition just played. */
export interface Played {
  tempoBpm: number;
  verdict: Verdict;
  ease: Ease | null;
}

/** What the player fixed before beginning. */
export interface Course {
  goalBpm: number;
  startBpm: number;
  stepBpm: number;
}

/** What every school's memory holds; a school may add to it. */
export interface Memory {
  /** Repetitions in a row at this tempo that were neither clean nor close. */
  failedInARow: number;
}

/**
 * A tempo school: how the next tempo follows from a repetition. A pure decision; the guards (guards.ts) have already
 * been asked and raised no objection to its being asked.
 */
export interface School<State extends Memory = Memory> {
  id: string;
  name: string;
  about: string;
  begin(course: Course): State;
  decide(state: State, played: Played, course: Course): { state: State; decision: Omit<Decision, 'overruled'> };
}
