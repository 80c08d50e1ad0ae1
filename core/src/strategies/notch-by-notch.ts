import { z } from 'zod';
import { clampBpm } from '../time/clamp-tempo';
import { notchesFrom } from '../time/marks';
import { atGoal, hold, lower, raise } from './answers';
import { downFrom } from './down-from';
import type { TempoStrategy } from './strategy';
import { STUCK_BY } from './stuck';

const Options = z.object({
  times: z.union([z.literal(3), z.literal(5), z.literal(10), z.literal(15)]).default(10),
  notches: z.union([z.literal(1), z.literal(2)]).default(1),
  /** Marks under the last one that was earned, where a day begins; as the last take left it where 0. */
  startUnder: z.union([z.literal(0), z.literal(1), z.literal(2), z.literal(4)]).default(0),
});

const State = z.object({
  /** The tempo that is being counted at. */
  atBpm: z.number().nullable().default(null),
  inARow: z.number().int().min(0).default(0),
  /** How much was not clean at this tempo; each clean one takes a little off. */
  stuck: z.number().min(0).default(0),
  /** The fastest mark at which the whole count was done; null before any. */
  earnedBpm: z.number().nullable().default(null),
});

/** A mark that was earned before takes only so many in a row another day. */
const AGAIN = 3;
const STUCK = 4;
/** A clean repetition takes so much off being stuck. */
const RELIEF = 0.3;

/**
 * One notch of the traditional marks after so many clean and comfortable repetitions in a row; anything else begins the count anew.
 * Common practice, no source. One notch down where it stays stuck: set on simulated learners.
 */
export const NOTCH_BY_NOTCH: TempoStrategy<z.infer<typeof Options>, z.infer<typeof State>> = {
  id: 'notch-by-notch',
  name: 'Notch by notch',
  about:
    'One mark up after ten clean and comfortable repetitions in a row; a miss begins the count anew. A mark that was earned once takes three another day.',
  options: Options,
  fields: [
    {
      key: 'times',
      label: 'Up after clean',
      choices: [3, 5, 10, 15].map((count) => ({ value: count, name: `${count} times in a row` })),
    },
    {
      key: 'notches',
      label: 'Up by',
      choices: [1, 2].map((count) => ({ value: count, name: count === 1 ? 'one mark' : 'two marks' })),
    },
    {
      key: 'startUnder',
      label: 'A day begins',
      choices: [
        { value: 0, name: 'a little under what was clean' },
        { value: 1, name: 'a mark under the last one earned' },
        { value: 2, name: 'two marks under it' },
        { value: 4, name: 'four marks under it' },
      ],
    },
  ],
  state: State,
  begin: (_options, kept) => ({ atBpm: null, inARow: 0, stuck: 0, earnedBpm: kept?.earnedBpm ?? null }),
  close: (state) => state,
  start: ({ earnedBpm }, { startUnder }) =>
    earnedBpm === null || startUnder === 0 ? null : notchesFrom(earnedBpm, -startUnder),
  next(state, played, { times, notches }, target) {
    const { bpm, verdict } = played;
    const here = state.atBpm === bpm ? state : { ...state, atBpm: bpm, inARow: 0, stuck: 0 };
    const isEarned = here.earnedBpm !== null && bpm <= here.earnedBpm;
    const needed = isEarned ? Math.min(AGAIN, times) : times;
    if (verdict.outcome === 'clean') {
      const inARow = here.inARow + 1;
      const counted = { ...here, inARow, stuck: Math.max(0, here.stuck - RELIEF) };
      if (bpm >= target.goalBpm) return atGoal(counted, bpm, inARow, needed);
      if (inARow < needed) return hold(counted, bpm, 'notch-count', { done: inARow, of: needed });
      const next = Math.min(target.goalBpm, clampBpm(notchesFrom(bpm, notches)));
      const earnedBpm = Math.max(bpm, here.earnedBpm ?? 0);
      return raise({ atBpm: next, inARow: 0, stuck: 0, earnedBpm }, next, 'notch-up', { times: inARow });
    }
    const stuck = here.stuck + STUCK_BY[verdict.outcome];
    if (stuck < STUCK)
      return hold({ ...here, inARow: 0, stuck }, bpm, here.inARow ? 'notch-anew' : 'notch-again', { of: needed });
    const down = downFrom(played, bpm - notchesFrom(bpm, -1), target);
    // What no longer holds is earned anew.
    const earnedBpm = isEarned ? null : here.earnedBpm;
    return lower({ atBpm: down.bpm, inARow: 0, stuck: 0, earnedBpm }, down.bpm, down.isFar ? 'climb-far' : 'notch-down');
  },
};
