import type { z } from 'zod';
import type { Drill } from '../schema/grid';
import type { OptionField } from '../schema/options';
import type { Reason } from '../schema/reason';
import type { AfterBreak } from '../schema/settings';
import type { Ease, TempoAction } from '../schema/take';
import type { TempoMapDocument } from '../schema/tempo';
import type { Verdict } from '../schema/verdict';

/** How a repetition is played where a strategy asks for something else than the drill itself at its tempo. */
export type RepetitionKind = 'asked' | StrategyRepetitionKind;

/** What a strategy may ask for in between. */
export type StrategyRepetitionKind = Exclude<NonNullable<Drill['repetitionKind']>, 'retake'>;

/** What a strategy is told of the repetition just played. */
export interface RepetitionOutcome {
  tempo: TempoMapDocument;
  /** The tempo by which the repetition is named; of a burst or a sweep the one that was asked for. */
  bpm: number;
  verdict: Verdict;
  /** How much of what the tolerance allows the unsteadiness took, 1 being just allowed; null where nothing can be said. */
  toleranceUsage: number | null;
  /** How it felt; unanswered counts as working. */
  ease: Ease;
  /** How many notes it rests on; absent where that is not known. */
  notes?: number;
  /** How it was played; absent for what was asked. */
  repetitionKind?: NonNullable<Drill['repetitionKind']>;
  /** Of a sweep, where evenness broke; null where it did not. */
  breakBpm?: number | null;
  /** And the notes that went first there, counted from 0. */
  wentFirst?: readonly number[];
  /** Of a burst, the tempo that it came to by itself. */
  ownBpm?: number;
}

/** What the player fixed before beginning. */
export interface SessionTarget {
  goalBpm: number;
  startBpm: number;
  /** Which day it is, counted by the calendar; only differences are looked at. */
  day?: number;
  /** How far beyond the goal it is to be clean before the goal itself counts, in percent. */
  overshootPct?: number;
  /** Whether the take ends loose, below the edge, once it begins to fall apart. */
  relaxedFinish?: boolean;
  /** Repetitions at a tempo before any raise. */
  minRepetitions?: number;
  /** Bars of rest between two repetitions. */
  restBars?: number;
  /** Where a repetition that broke off is taken up; the beginning where nothing is said. */
  afterBreak?: AfterBreak;
  /** Whether it is counted on until the first note comes. */
  waits?: boolean;
}

/** What a strategy says of a repetition. */
export interface Answer<State> {
  state: State;
  action: TempoAction;
  tempo: TempoMapDocument;
  why: Reason;
}

/**
 * A tempo strategy: how the next tempo follows from a repetition. A pure decision; the guards (guards.ts) have already been
 * asked and raised no objection to its being asked. Options and state are plain data with schemas: they are stored by passage,
 * variant and section, and survive days.
 */
export interface TempoStrategy<
  Options extends Record<string, unknown> = Record<string, unknown>,
  State extends Record<string, unknown> = Record<string, unknown>,
> {
  id: string;
  name: string;
  about: string;
  /** Every option has a default, so that `{}` is read. */
  options: z.ZodType<Options>;
  /** How the options are offered. */
  fields: readonly OptionField[];
  state: z.ZodType<State>;
  /** The state at the beginning of a take; `kept` is what an earlier take left. */
  begin(options: Options, kept: State | null): State;
  next(state: State, played: RepetitionOutcome, options: Options, target: SessionTarget): Answer<State>;
  /** What it makes of a repetition that felt tense, of which the guards rule and it is not asked; nothing where absent. */
  tense?(state: State, played: RepetitionOutcome, target: SessionTarget): State;
  /** What is kept for another day. */
  close(state: State): State;
  /** Which ways of playing it asks for besides the drill itself. */
  repetitionKinds?: readonly StrategyRepetitionKind[];
  /** How the next repetition is to be played; as asked where this is absent. */
  repetitionKind?(state: State, options: Options): RepetitionKind;
  /** The tempo at which a take begins, where the strategy knows it better than what the last take left; null where not. */
  start?(state: State, options: Options): number | null;
  /** Whether the tempo is the player's, and nothing moves it but guards of safety. */
  leavesTempo?: boolean;
  /** How far beyond the goal it goes by itself, in percent. */
  overshootPct?(options: Options): number;
}
