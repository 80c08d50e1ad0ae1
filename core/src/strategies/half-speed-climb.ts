import { z } from 'zod';
import { atGoal, hold, lower, raise } from './answers';
import { downFrom, isWide } from './down-from';
import { GOAL_CLEANS_FIELD, GoalCleans } from './goal-cleans';
import type { TempoStrategy } from './strategy';

const Options = z.object({
  stepBpm: z.union([z.literal(2), z.literal(5), z.literal(10)]).default(5),
  goalCleans: GoalCleans,
});

const State = z.object({
  /** Clean repetitions in a row at this tempo. */
  cleanInARow: z.number().int().min(0).default(0),
  /** Repetitions in a row at this tempo that were not clean; close ones count half. */
  stuck: z.number().min(0).default(0),
  /** The slowest tempo from which it had to go down, until it is passed; null while none was met. */
  edgeBpm: z.number().nullable().default(null),
});

/** Near the edge tempos move by this much instead of the player's step. */
const NUDGE_BPM = 2;
/** Near is within this share of the edge, either way: what is clean far above it makes it a thing of the past. */
const NEAR_EDGE = 0.06;
/** Near the edge a raise takes so many clean repetitions in a row, unless one is clean by a wide margin. */
const CLEANS_NEAR_EDGE = 3;
/** So much of being stuck leads down: two that were not yet, four that were close; near the edge two of either. */
const STUCK = 2;

const isNearEdge = (edgeBpm: number | null, bpm: number): boolean =>
  edgeBpm !== null && Math.abs(bpm - edgeBpm) <= NEAR_EDGE * edgeBpm;

/**
 * Start at half the goal or lower, one step up after each clean repetition; at the first hard tempo go just below it and nudge.
 * Common practice, no source. How careful it is near the edge was set on simulated learners, so that it settles where about two in three
 * repetitions are clean: more caution (up to eight clean ones for a nudge) made that no more than two points more.
 */
export const HALF_SPEED_CLIMB: TempoStrategy<z.infer<typeof Options>, z.infer<typeof State>> = {
  id: 'half-speed-climb',
  name: 'Half-speed climb',
  about:
    'Begins at half the goal. One step up after each clean repetition; near the first hard tempo, small nudges. It keeps trying the edge: about two in three are clean there.',
  options: Options,
  fields: [
    {
      key: 'stepBpm',
      label: 'Step after a clean repetition',
      choices: [2, 5, 10].map((step) => ({ value: step, name: `${step} at a time` })),
    },
    GOAL_CLEANS_FIELD,
  ],
  state: State,
  // A new take climbs afresh; the edge of the last one stays noted.
  begin: (_options, kept) => ({ cleanInARow: 0, stuck: 0, edgeBpm: kept?.edgeBpm ?? null }),
  close: (state) => state,
  next(state, played, { stepBpm, goalCleans }, target) {
    const { bpm, verdict } = played;
    const { outcome } = verdict;
    const { goalBpm } = target;
    const nudge = Math.min(NUDGE_BPM, stepBpm);
    if (outcome === 'clean') {
      const cleanInARow = state.cleanInARow + 1;
      const calm = { ...state, cleanInARow, stuck: 0 };
      if (bpm >= goalBpm) return atGoal(calm, bpm, cleanInARow, goalCleans);
      const isNear = isNearEdge(state.edgeBpm, bpm);
      if (isNear && !isWide(played) && cleanInARow < CLEANS_NEAR_EDGE)
        return hold(calm, bpm, 'climb-sure', { more: CLEANS_NEAR_EDGE - cleanInARow });
      const next = Math.min(goalBpm, bpm + (isNear ? nudge : stepBpm));
      // An edge that was clean moves up; one that was clean by a wide margin was a slip, and is forgotten.
      const isPassed = state.edgeBpm !== null && bpm >= state.edgeBpm;
      const edgeBpm = isPassed ? (isWide(played) || !isNear ? null : next) : state.edgeBpm;
      return raise({ cleanInARow: 0, stuck: 0, edgeBpm }, next, isNear ? 'climb-nudge' : 'climb-step');
    }
    const stuck = state.stuck + (outcome === 'close' && !isNearEdge(state.edgeBpm, bpm) ? 0.5 : 1);
    if (stuck < STUCK && outcome !== 'broken')
      return hold({ ...state, cleanInARow: 0, stuck }, bpm, outcome === 'close' ? 'climb-close' : 'climb-once-more');
    // As far as the unsteadiness says, at least half a step.
    const least = state.edgeBpm !== null && bpm <= state.edgeBpm ? 3 * nudge : Math.max(nudge, Math.ceil(stepBpm / 2));
    const down = downFrom(played, least, target);
    const code =
      outcome === 'broken' ? 'climb-broken' : down.isFar ? 'climb-far' : outcome === 'close' ? 'climb-stuck' : 'climb-below';
    return lower({ cleanInARow: 0, stuck: 0, edgeBpm: bpm }, down.bpm, code);
  },
};
