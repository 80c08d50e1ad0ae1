import { z } from 'zod';
import { atGoal, hold, lower, raise } from './answers';
import { downFrom, isWide } from './down-from';
import { GOAL_CLEANS_FIELD, GoalCleans } from './goal-cleans';
import type { TempoStrategy } from './strategy';
import { STUCK_BY } from './stuck';

const Options = z.object({
  stepBpm: z.union([z.literal(2), z.literal(5), z.literal(10)]).default(5),
  days: z.number().int().min(2).max(7).default(5),
  goalCleans: GoalCleans,
});

const State = z.object({
  /** The tempo of the week; null until one is found. */
  weekBpm: z.number().nullable().default(null),
  /** Relaxed clean days at it. */
  goodDays: z.number().int().min(0).default(0),
  day: z.number().int().nullable().default(null),
  /** Of this day, at the tempo of the week. */
  played: z.number().int().min(0).default(0),
  clean: z.number().int().min(0).default(0),
  inARow: z.number().int().min(0).default(0),
  stuck: z.number().min(0).default(0),
});
type WeekState = z.infer<typeof State>;

/** So many repetitions, and so large a share of them clean, make a good day. */
const [MIN_A_DAY, GOOD_SHARE] = [4, 0.7];
const STUCK = 3;
/** So many repetitions that were not clean with ease end the search of the first day. */
const FOUND = 2;
/** A clean repetition takes so much off being stuck. */
const RELIEF = 0.5;

/** Whether a day was good so far: enough was played at the tempo of the week, and most of it clean and not tense. */
const isGood = ({ played, clean }: WeekState): boolean => played >= MIN_A_DAY && clean >= GOOD_SHARE * played;

/** A new day: the last one is counted, where it was played enough to tell. */
const onDay = (state: WeekState, day: number): WeekState => {
  if (state.day === day) return state;
  const goodDays = state.goodDays + (isGood(state) ? 1 : 0);
  return { ...state, goodDays, day, played: 0, clean: 0, inARow: 0, stuck: 0 };
};

/**
 * One step about once a week, after a week of relaxed clean days. Common practice, no source. On the first day the tempo of the week is
 * looked for: up in steps while it is clean with ease.
 */
export const WEEK_STEP: TempoStrategy<z.infer<typeof Options>, WeekState> = {
  id: 'week-step',
  name: 'Week step',
  about: 'One tempo all week; after a week of relaxed clean days, one step up. The first day finds where to begin.',
  options: Options,
  fields: [
    { key: 'stepBpm', label: 'Step of a week', choices: [2, 5, 10].map((step) => ({ value: step, name: `${step}` })) },
    { key: 'days', label: 'After good days', choices: [3, 4, 5, 6, 7].map((count) => ({ value: count, name: `${count}` })) },
    GOAL_CLEANS_FIELD,
  ],
  state: State,
  begin: (_options, kept) => kept ?? State.parse({}),
  close: (state) => state,
  start: ({ weekBpm }) => weekBpm,
  // However clean it was: a good day is a relaxed one.
  tense: (state, { bpm }, { day = 0 }) => {
    const today = onDay(state, day);
    return bpm === today.weekBpm ? { ...today, played: today.played + 1 } : today;
  },
  next(state, played, { stepBpm, days, goalCleans }, target) {
    const { bpm, verdict } = played;
    const isClean = verdict.outcome === 'clean';
    const today = onDay(state, target.day ?? 0);
    if (today.weekBpm === null) {
      if (isClean && isWide(played) && bpm < target.goalBpm) {
        const next = Math.min(target.goalBpm, bpm + stepBpm);
        return raise({ ...today, stuck: 0 }, next, 'week-finding');
      }
      // One repetition may be a slip, or luck: the second one tells.
      const stuck = today.stuck + (isClean ? 1 : STUCK_BY[verdict.outcome]);
      if (stuck < FOUND) return hold({ ...today, stuck }, bpm, 'week-tell');
      if (isClean) return hold({ ...today, weekBpm: bpm, stuck: 0 }, bpm, 'week-found');
      const down = downFrom(played, stepBpm, target);
      return lower({ ...today, weekBpm: down.bpm, stuck: 0 }, down.bpm, 'week-found-below');
    }
    // What the player plays by choice at another tempo says nothing of the week's.
    const isWeeks = bpm === today.weekBpm;
    const counted = {
      ...today,
      played: today.played + (isWeeks ? 1 : 0),
      clean: today.clean + (isWeeks && isClean ? 1 : 0),
      inARow: isClean ? today.inARow + 1 : 0,
      stuck: isClean ? Math.max(0, today.stuck - RELIEF) : today.stuck + STUCK_BY[verdict.outcome],
    };
    if (isClean) {
      if (bpm >= target.goalBpm) return atGoal(counted, bpm, counted.inARow, goalCleans);
      if (counted.goodDays < days || !isWeeks)
        return hold(counted, bpm, 'week-same', { days: counted.goodDays, of: days, today: isGood(counted) ? 1 : 0 });
      const next = Math.min(target.goalBpm, bpm + stepBpm);
      return raise({ ...counted, weekBpm: next, goodDays: 0, played: 0, clean: 0 }, next, 'week-step', { days });
    }
    if (counted.stuck < STUCK) return hold(counted, bpm, 'week-once-more');
    const down = downFrom(played, stepBpm, target);
    const fallen = { ...counted, weekBpm: down.bpm, goodDays: 0, played: 0, clean: 0, stuck: 0 };
    return lower(fallen, down.bpm, down.isFar ? 'climb-far' : 'week-down');
  },
};
