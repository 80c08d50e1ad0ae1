import { z } from 'zod';
import { atGoal, hold, lower, raise } from './answers';
import { downFrom } from './down-from';
import { GOAL_CLEANS_FIELD, GoalCleans } from './goal-cleans';
import type { Answer, RepetitionOutcome, TempoStrategy } from './strategy';
import { STUCK_BY } from './stuck';

const Options = z.object({
  underPct: z.union([z.literal(2), z.literal(3), z.literal(5)]).default(3),
  times: z.union([z.literal(4), z.literal(6), z.literal(10)]).default(6),
  goalCleans: GoalCleans,
});

const State = z.object({
  phase: z.enum(['sweep', 'work']).default('sweep'),
  /** Where the last sweep broke. */
  breakBpm: z.number().nullable().default(null),
  atBpm: z.number().nullable().default(null),
  cleans: z.number().int().min(0).default(0),
  inARow: z.number().int().min(0).default(0),
  stuck: z.number().min(0).default(0),
});
type BreakState = z.infer<typeof State>;

/** Where a sweep held together to its end, the next one is asked for so much faster at most: the one step that this strategy makes at once. */
const SWEEP_STEP = 1.25;
const STUCK = 2;
/** A day's first sweep is asked for so far under the last break. */
const START_UNDER = 0.1;
/** Down by this share where the work is not clean. */
const DOWN_SHARE = 0.03;

const calm = { cleans: 0, inARow: 0, stuck: 0 };

/** A sweep was played: to work just under where it broke. */
const afterSweep = (
  state: BreakState,
  { bpm, breakBpm, verdict, wentFirst = [] }: RepetitionOutcome,
  underPct: number,
  goalBpm: number,
): Answer<BreakState> => {
  if (breakBpm === null || breakBpm === undefined) {
    if (verdict.outcome === 'broken') return hold(state, bpm, 'sweep-again');
    if (bpm >= goalBpm) return hold({ ...state, ...calm, phase: 'work', atBpm: bpm }, bpm, 'sweep-goal');
    const next = Math.min(goalBpm, Math.floor(bpm * SWEEP_STEP));
    return raise({ ...state, ...calm, atBpm: next }, next, 'sweep-held');
  }
  const under = Math.round(breakBpm * (1 - underPct / 100));
  const next = Math.min(goalBpm, under);
  const working: BreakState = { ...calm, phase: 'work', breakBpm, atBpm: next };
  const [first, second] = wentFirst;
  const values = {
    break: Math.round(breakBpm),
    ...(first === undefined ? {} : { first: first + 1 }),
    ...(second === undefined ? {} : { second: second + 1 }),
  };
  if (next > bpm) return raise(working, next, 'sweep-broke', values);
  return next < bpm ? lower(working, next, 'sweep-broke', values) : hold(working, next, 'sweep-broke', values);
};

/** A sweep finds where evenness breaks; the work is a little under that, and another sweep comes after so many clean ones. Common practice, no source. */
export const BELOW_THE_BREAK: TempoStrategy<z.infer<typeof Options>, BreakState> = {
  id: 'below-the-break',
  name: 'Below the break',
  about: 'A sweep from slow to fast finds where evenness breaks; you work a little under that, then sweep again.',
  options: Options,
  fields: [
    { key: 'underPct', label: 'Under the break by', choices: [2, 3, 5].map((share) => ({ value: share, name: `${share} %` })) },
    {
      key: 'times',
      label: 'Sweep again after',
      choices: [4, 6, 10].map((count) => ({ value: count, name: `${count} clean` })),
    },
    GOAL_CLEANS_FIELD,
  ],
  state: State,
  repetitionKinds: ['sweep'],
  // Each day has its own break.
  begin: (_options, kept) => ({ ...State.parse({}), breakBpm: kept?.breakBpm ?? null }),
  close: (state) => state,
  // The first sweep lies around where it broke before.
  start: ({ breakBpm }) => (breakBpm === null ? null : Math.round(breakBpm * (1 - START_UNDER))),
  repetitionKind: ({ phase }) => (phase === 'sweep' ? 'sweep' : 'asked'),
  next(state, played, { underPct, times, goalCleans }, target) {
    const { bpm, verdict } = played;
    if (played.repetitionKind === 'sweep') return afterSweep(state, played, underPct, target.goalBpm);
    const here = state.atBpm === bpm ? state : { ...state, ...calm, atBpm: bpm };
    if (verdict.outcome === 'clean') {
      const counted = { ...here, cleans: here.cleans + 1, inARow: here.inARow + 1, stuck: 0 };
      if (bpm >= target.goalBpm) return atGoal(counted, bpm, counted.inARow, goalCleans);
      if (counted.cleans < times) return hold(counted, bpm, 'break-work', { more: times - counted.cleans });
      return hold({ ...counted, ...calm, phase: 'sweep' as const }, bpm, 'break-sweep', { times });
    }
    const stuck = here.stuck + STUCK_BY[verdict.outcome];
    if (stuck < STUCK && verdict.outcome !== 'broken') return hold({ ...here, inARow: 0, stuck }, bpm, 'climb-once-more');
    const down = downFrom(played, Math.max(1, Math.round(bpm * DOWN_SHARE)), target);
    return lower({ ...here, ...calm, atBpm: down.bpm }, down.bpm, down.isFar ? 'climb-far' : 'break-down');
  },
};
