import { z } from 'zod';
import { atGoal, hold, lower, raise } from './answers';
import { downFrom, isWide } from './down-from';
import { GOAL_CLEANS_FIELD, GoalCleans } from './goal-cleans';
import type { TempoStrategy } from './strategy';
import { STUCK_BY } from './stuck';

const Options = z.object({
  stepBpm: z.union([z.literal(5), z.literal(10)]).default(5),
  dropBpm: z.union([z.literal(5), z.literal(10), z.literal(15)]).default(10),
  goalCleans: GoalCleans,
});

const State = z.object({
  phase: z.enum(['climb', 'hold']).default('climb'),
  atBpm: z.number().nullable().default(null),
  inARow: z.number().int().min(0).default(0),
  stuck: z.number().min(0).default(0),
  /** The limit of the last day on which one was met. */
  limitBpm: z.number().nullable().default(null),
  /** The most clean repetitions in a row while holding. */
  longestHold: z.number().int().min(0).default(0),
});

const STUCK = 2;
/** While holding, so many in a row are stamina enough for a little more. */
const HELD = 6;
const NUDGE_BPM = 2;
const LITTLE_DOWN_BPM = 4;
/** Without a wide margin, so many clean ones in a row for a step. */
const CLEANS_FOR_A_STEP = 2;

/** Up by steps to the limit of the day, then well below it, and held there as long as it stays clean and loose. Common practice, no source. */
export const EDGE_AND_STAMINA: TempoStrategy<z.infer<typeof Options>, z.infer<typeof State>> = {
  id: 'edge-and-stamina',
  name: 'Edge and stamina',
  about: 'Up in steps to the limit of the day, then well below it, held there as long as it stays clean and loose.',
  options: Options,
  fields: [
    { key: 'stepBpm', label: 'Step', choices: [5, 10].map((step) => ({ value: step, name: `${step} at a time` })) },
    { key: 'dropBpm', label: 'Below the limit', choices: [5, 10, 15].map((drop) => ({ value: drop, name: `by ${drop}` })) },
    GOAL_CLEANS_FIELD,
  ],
  state: State,
  // Each day has its own limit.
  begin: (_options, kept) => ({
    phase: 'climb',
    atBpm: null,
    inARow: 0,
    stuck: 0,
    limitBpm: kept?.limitBpm ?? null,
    longestHold: kept?.longestHold ?? 0,
  }),
  close: (state) => state,
  next(state, played, { stepBpm, dropBpm, goalCleans }, target) {
    const { bpm, verdict } = played;
    const here = state.atBpm === bpm ? state : { ...state, atBpm: bpm, inARow: 0, stuck: 0 };
    const isHolding = here.phase === 'hold';
    if (verdict.outcome === 'clean') {
      const inARow = here.inARow + 1;
      const longestHold = isHolding ? Math.max(here.longestHold, inARow) : here.longestHold;
      const counted = { ...here, inARow, stuck: 0, longestHold };
      if (bpm >= target.goalBpm) return atGoal(counted, bpm, inARow, goalCleans);
      const needed = isHolding ? HELD : isWide(played) ? 1 : CLEANS_FOR_A_STEP;
      if (inARow < needed)
        return isHolding
          ? hold(counted, bpm, 'stamina-hold', { times: inARow })
          : hold(counted, bpm, 'climb-sure', { more: needed - inARow });
      const next = Math.min(target.goalBpm, bpm + (isHolding ? NUDGE_BPM : stepBpm));
      const risen = { ...counted, atBpm: next, inARow: 0 };
      return raise(risen, next, isHolding ? 'stamina-nudge' : 'climb-step', { times: inARow });
    }
    const stuck = here.stuck + STUCK_BY[verdict.outcome];
    if (stuck < STUCK && verdict.outcome !== 'broken')
      return hold({ ...here, inARow: 0, stuck }, bpm, verdict.outcome === 'close' ? 'climb-close' : 'climb-once-more');
    const down = downFrom(played, isHolding ? LITTLE_DOWN_BPM : dropBpm, target);
    const fallen = { ...here, phase: 'hold' as const, atBpm: down.bpm, inARow: 0, stuck: 0 };
    return isHolding
      ? lower(fallen, down.bpm, 'stamina-down')
      : lower({ ...fallen, limitBpm: bpm }, down.bpm, 'stamina-limit', { limit: bpm });
  },
};
