import type { z } from 'zod';
import type { StrategySnapshot } from '../schema/practice-config';
import { ADAPTIVE } from './adaptive';
import { BELOW_THE_BREAK } from './below-the-break';
import { BEYOND_THE_GOAL } from './beyond-the-goal';
import { EDGE_AND_STAMINA } from './edge-and-stamina';
import { FREE } from './free';
import { FROM_BOTH_SIDES } from './from-both-sides';
import { HALF_SPEED_CLIMB } from './half-speed-climb';
import { NOTCH_BY_NOTCH } from './notch-by-notch';
import { STAIRCASE } from './staircase';
import type { RepetitionKind, TempoStrategy } from './strategy';
import { WEEK_STEP } from './week-step';

/** Every tempo strategy. To add one: write its file, add it here; the Bench then offers it. */
// biome-ignore lint/suspicious/noExplicitAny: each strategy reads its own options and keeps its own state.
export const STRATEGIES: readonly TempoStrategy<any, any>[] = [
  HALF_SPEED_CLIMB,
  NOTCH_BY_NOTCH,
  EDGE_AND_STAMINA,
  WEEK_STEP,
  BEYOND_THE_GOAL,
  FROM_BOTH_SIDES,
  BELOW_THE_BREAK,
  STAIRCASE,
  ADAPTIVE,
  FREE,
];

/** A strategy by its id; the half-speed climb where the id is unknown. */
export const strategyOf = (id: string): TempoStrategy =>
  STRATEGIES.find((strategy) => strategy.id === id) ?? (HALF_SPEED_CLIMB as unknown as TempoStrategy);

/** A strategy at work: its options and where it stands. Plain data. */
export interface StrategyRun {
  id: string;
  options: Record<string, unknown>;
  state: Record<string, unknown>;
}

const read = <Value>(schema: z.ZodType<Value>, stored: unknown): Value | null => {
  const parsed = schema.safeParse(stored);
  return parsed.success ? parsed.data : null;
};

/** A strategy's options as stored; where they cannot be read, its defaults. */
export const optionsOf = (strategy: TempoStrategy, stored: unknown): Record<string, unknown> =>
  read(strategy.options, stored) ?? strategy.options.parse({});

/** A strategy at work as it is stored: what it keeps. */
export const snapshotOf = ({ id, options, state }: StrategyRun): StrategySnapshot & { id: string } =>
  // Read back from JSON: what a strategy keeps is plain data.
  JSON.parse(JSON.stringify({ id, options, state: strategyOf(id).close(state) }));

/** Begins a take with a strategy, from what it kept for this passage, variant and section. */
export const beginStrategy = (id: string, snapshot: StrategySnapshot | null): StrategyRun => {
  const strategy = strategyOf(id);
  const options = optionsOf(strategy, snapshot?.options);
  return { id: strategy.id, options, state: strategy.begin(options, read(strategy.state, snapshot?.state)) };
};

/** Goes on with a strategy in the middle of a loop, exactly where it stood; begins afresh where that cannot be read. */
export const resumeStrategy = (id: string, snapshot: StrategySnapshot): StrategyRun => {
  const strategy = strategyOf(id);
  const state = read(strategy.state, snapshot.state);
  return state ? { id: strategy.id, options: optionsOf(strategy, snapshot.options), state } : beginStrategy(id, snapshot);
};

/** How a strategy wants its next repetition played. */
export const nextRepetitionKind = ({ id, options, state }: StrategyRun): RepetitionKind =>
  strategyOf(id).repetitionKind?.(state, options) ?? 'asked';

/** Where a strategy begins the next take by itself, after one that left this; null where what the take left rules. */
export const startAfter = (left: (StrategySnapshot & { id: string }) | null): number | null =>
  left && STRATEGIES.some(({ id }) => id === left.id) ? strategyStart(beginStrategy(left.id, left)) : null;

/** Where a strategy begins a take by itself; null where what the last take left rules. */
export const strategyStart = ({ id, options, state }: StrategyRun): number | null =>
  strategyOf(id).start?.(state, options) ?? null;
