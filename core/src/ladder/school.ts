import type { z } from 'zod';
import type { OptionField } from '../schema/options';
import type { Ease, TempoAction } from '../schema/take';
import type { TempoMapDocument } from '../schema/tempo';
import type { Verdict } from '../schema/verdict';
import type { Why } from '../schema/why';

/** What a school is told of the repetition just played. */
export interface Played {
  tempo: TempoMapDocument;
  /** The tempo by which the repetition is named. */
  bpm: number;
  verdict: Verdict;
  /** How much of what the tolerance allows the wobble took, 1 being just allowed; null where nothing can be said. */
  demand: number | null;
  /** How it felt; unanswered counts as working. */
  ease: Ease;
}

/** What the player fixed before beginning. */
export interface Aim {
  goalBpm: number;
  startBpm: number;
}

/** What a school says of a repetition. */
export interface Answer<State> {
  state: State;
  action: TempoAction;
  tempo: TempoMapDocument;
  why: Why;
}

/**
 * A tempo school: how the next tempo follows from a repetition. A pure decision; the guards (guards.ts) have already been
 * asked and raised no objection to its being asked. Options and state are plain data with schemas: they are stored by passage,
 * variant and section, and survive days.
 */
export interface School<
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
  next(state: State, played: Played, options: Options, aim: Aim): Answer<State>;
  /** What is kept for another day. */
  close(state: State): State;
}
