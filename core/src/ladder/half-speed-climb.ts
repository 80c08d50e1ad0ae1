import { z } from 'zod';
import { shareToClean } from '../plan/next-start';
import { why } from '../schema/why';
import { constantTempo } from '../time/tempo-map';
import type { School } from './school';

const Options = z.object({
  stepBpm: z.union([z.literal(2), z.literal(5), z.literal(10)]).default(5),
  /** The goal is reached with so many clean repetitions of it in a row. */
  goalCleans: z.union([z.literal(2), z.literal(3), z.literal(5)]).default(3),
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
export const NUDGE_BPM = 2;
/** Near is within this share of the edge, either way: what is clean far above it makes it a thing of the past. */
const NEAR_EDGE = 0.06;
/** Near the edge a raise takes so many clean repetitions in a row, unless one is clean by a wide margin. */
const CLEANS_NEAR_EDGE = 3;
/** A wobble of at most this share of what is allowed is a wide margin. */
const WIDE_MARGIN = 0.6;
/** So much of being stuck leads down: two that were not yet, four that were close; near the edge two of either. */
const STUCK = 2;

const isNearEdge = (edgeBpm: number | null, bpm: number): boolean =>
  edgeBpm !== null && Math.abs(bpm - edgeBpm) <= NEAR_EDGE * edgeBpm;

/**
 * Start at half the goal or lower, one step up after each clean repetition; at the first hard tempo go just below it and nudge.
 * Common practice, no source. How careful it is near the edge was set on simulated learners, so that it settles where seven in ten
 * repetitions are clean.
 */
export const HALF_SPEED_CLIMB: School<z.infer<typeof Options>, z.infer<typeof State>> = {
  id: 'half-speed-climb',
  name: 'Half-speed climb',
  about: 'Begins at half the goal. One step up after each clean repetition; near the first hard tempo, small nudges.',
  options: Options,
  fields: [
    {
      key: 'stepBpm',
      label: 'Step after a clean repetition',
      choices: [2, 5, 10].map((step) => ({ value: step, name: `${step} at a time` })),
    },
    {
      key: 'goalCleans',
      label: 'Reached when clean',
      choices: [2, 3, 5].map((count) => ({ value: count, name: `${count} times in a row` })),
    },
  ],
  state: State,
  // A new take climbs afresh; the edge of the last one stays noted.
  begin: (_options, kept) => ({ cleanInARow: 0, stuck: 0, edgeBpm: kept?.edgeBpm ?? null }),
  close: (state) => state,
  next(state, { bpm, demand, verdict: { outcome } }, { stepBpm, goalCleans }, { goalBpm, startBpm }) {
    const here = constantTempo(bpm);
    const nudge = Math.min(NUDGE_BPM, stepBpm);
    if (outcome === 'clean') {
      const cleanInARow = state.cleanInARow + 1;
      const calm = { ...state, cleanInARow, stuck: 0 };
      if (bpm >= goalBpm) {
        if (cleanInARow >= goalCleans)
          return { state: calm, action: 'goal', tempo: here, why: why('goal', { bpm, times: cleanInARow }) };
        return { state: calm, action: 'hold', tempo: here, why: why('climb-goal', { bpm, more: goalCleans - cleanInARow }) };
      }
      const isNear = isNearEdge(state.edgeBpm, bpm);
      const isWide = demand !== null && demand <= WIDE_MARGIN;
      if (isNear && !isWide && cleanInARow < CLEANS_NEAR_EDGE)
        return {
          state: calm,
          action: 'hold',
          tempo: here,
          why: why('climb-sure', { bpm, more: CLEANS_NEAR_EDGE - cleanInARow }),
        };
      const next = Math.min(goalBpm, bpm + (isNear ? nudge : stepBpm));
      // An edge that was clean moves up; one that was clean by a wide margin was a slip, and is forgotten.
      const isPassed = state.edgeBpm !== null && bpm >= state.edgeBpm;
      const edgeBpm = isPassed ? (isWide || !isNear ? null : next) : state.edgeBpm;
      const reason = why(isNear ? 'climb-nudge' : 'climb-step', { bpm: next });
      return { state: { cleanInARow: 0, stuck: 0, edgeBpm }, action: 'raise', tempo: constantTempo(next), why: reason };
    }
    const stuck = state.stuck + (outcome === 'close' && !isNearEdge(state.edgeBpm, bpm) ? 0.5 : 1);
    if (stuck < STUCK && outcome !== 'broken') {
      const reason = why(outcome === 'close' ? 'climb-close' : 'climb-once-more', { bpm });
      return { state: { ...state, cleanInARow: 0, stuck }, action: 'hold', tempo: here, why: reason };
    }
    // As far as the wobble says, at least half a step; never below half the tempo that the player chose to start from.
    const least = state.edgeBpm !== null && bpm <= state.edgeBpm ? 3 * nudge : Math.max(nudge, Math.ceil(stepBpm / 2));
    const far = outcome === 'close' || demand === null || demand <= 1 ? 0 : Math.round(bpm * shareToClean(demand));
    const next = Math.max(Math.round(startBpm / 2), bpm - Math.max(least, far));
    const code =
      outcome === 'broken' ? 'climb-broken' : far > least ? 'climb-far' : outcome === 'close' ? 'climb-stuck' : 'climb-below';
    return {
      state: { cleanInARow: 0, stuck: 0, edgeBpm: bpm },
      action: 'lower',
      tempo: constantTempo(next),
      why: why(code, { bpm: next }),
    };
  },
};
