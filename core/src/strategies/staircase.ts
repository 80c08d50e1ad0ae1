import { z } from 'zod';
import { mean } from '../stats/summary';
import { clampBpm } from '../time/clamp-tempo';
import { atGoal, hold, lower, raise } from './answers';
import { GOAL_CLEANS_FIELD, GoalCleans } from './goal-cleans';
import type { TempoStrategy } from './strategy';

/** A rule: when it goes up and how far down, and the share of clean repetitions at which it settles. */
interface Rule {
  name: string;
  /** Clean ones in a row for a step up. */
  cleans: number;
  /** Steps down for what was not clean, in steps up. */
  stepsDown: number;
  settlesAt: number;
}

/** A weighted rule goes so far down that steps balance where so many are clean: up · p = down · (1 − p). Kaernbach 1991. */
const weighted = (share: number): Rule => ({
  name: `${Math.round(100 * share)} % clean, by the width of its steps`,
  cleans: 1,
  stepsDown: share / (1 - share),
  settlesAt: share,
});
/** A transformed rule goes up after so many in a row: it settles where p to that power is a half. Levitt 1971. */
const transformed = (cleans: number): Rule => {
  const settlesAt = 0.5 ** (1 / cleans);
  return { name: `${(100 * settlesAt).toFixed(1)} % clean, up after ${cleans} in a row`, cleans, stepsDown: 1, settlesAt };
};

/** Every rule by its name in the options. */
export const STAIRCASE_RULES: Record<'two' | 'three' | 'four' | 'weighted-75' | 'weighted-80' | 'weighted-85', Rule> = {
  two: transformed(2),
  three: transformed(3),
  four: transformed(4),
  'weighted-75': weighted(0.75),
  'weighted-80': weighted(0.8),
  'weighted-85': weighted(0.85),
};
const RULE_IDS = ['two', 'three', 'four', 'weighted-75', 'weighted-80', 'weighted-85'] as const;

const Options = z.object({
  rule: z.enum(RULE_IDS).default('three'),
  stepBpm: z.union([z.literal(1), z.literal(2), z.literal(4)]).default(2),
  goalCleans: GoalCleans,
});

const State = z.object({
  atBpm: z.number().nullable().default(null),
  inARow: z.number().int().min(0).default(0),
  /** Which way it went last. */
  direction: z.enum(['up', 'down']).nullable().default(null),
  /** Whether it has not turned yet in this take. */
  isOpening: z.boolean().default(true),
  /** The tempos at which it turned, the last twelve. */
  turns: z.array(z.number()).max(12).default([]),
});
type StairState = z.infer<typeof State>;

/** Until it has turned once, steps up are so many times as wide. */
const OPENING = 3;

/** Where a staircase says that its share of clean repetitions lies: the mean of its last turns, as many up as down; null before four. */
export const staircaseEstimate = ({ turns }: Pick<StairState, 'turns'>): number | null =>
  turns.length < 4 ? null : mean(turns.slice(-2 * Math.floor(turns.length / 2)));

const moved = (state: StairState, bpm: number, next: number): StairState => {
  const direction = next > bpm ? 'up' : 'down';
  const turned = state.direction !== null && state.direction !== direction;
  const isOpening = state.isOpening && direction === 'up';
  return { atBpm: next, inARow: 0, direction, isOpening, turns: turned ? [...state.turns, bpm].slice(-12) : state.turns };
};

/** Transformed or weighted up and down: it settles at a share of clean repetitions that is known beforehand. Levitt 1971, Kaernbach 1991. */
export const STAIRCASE: TempoStrategy<z.infer<typeof Options>, StairState> = {
  id: 'staircase',
  name: 'Staircase',
  about: 'Up and down by fixed rules, which settle where a known share of repetitions is clean.',
  options: Options,
  fields: [
    { key: 'rule', label: 'Settles at', choices: RULE_IDS.map((id) => ({ value: id, name: STAIRCASE_RULES[id].name })) },
    { key: 'stepBpm', label: 'Step', choices: [1, 2, 4].map((step) => ({ value: step, name: `${step}` })) },
    GOAL_CLEANS_FIELD,
  ],
  state: State,
  begin: (_options, kept) => ({ atBpm: null, inARow: 0, direction: null, isOpening: true, turns: kept?.turns ?? [] }),
  close: (state) => state,
  next(state, { bpm, verdict }, { rule, stepBpm, goalCleans }, { goalBpm }) {
    const { cleans, stepsDown } = STAIRCASE_RULES[rule];
    const here = state.atBpm === bpm ? state : { ...state, atBpm: bpm, inARow: 0 };
    if (verdict.outcome === 'clean') {
      const counted = { ...here, inARow: here.inARow + 1 };
      if (bpm >= goalBpm) return atGoal(counted, bpm, counted.inARow, goalCleans);
      if (counted.inARow < cleans) return hold(counted, bpm, 'stairs-count', { more: cleans - counted.inARow });
      const next = Math.min(goalBpm, bpm + stepBpm * (here.isOpening ? OPENING : 1));
      return raise(moved(counted, bpm, next), next, 'stairs-up');
    }
    const next = clampBpm(bpm - stepBpm * stepsDown);
    return next < bpm ? lower(moved(here, bpm, next), next, 'stairs-down') : hold(here, bpm, 'slowest');
  },
};
