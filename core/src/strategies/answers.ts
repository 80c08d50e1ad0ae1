import { makeReason, type Reason, type ReasonCode, type ReasonValues, type ValuesArgument } from '../schema/reason';
import { constantTempo } from '../time/tempo-map';
import type { Answer } from './strategy';

const answer =
  (action: 'hold' | 'raise' | 'lower') =>
  <State, Code extends ReasonCode>(
    state: State,
    bpm: number,
    code: Code,
    ...[values]: ValuesArgument<Omit<ReasonValues<Code>, 'bpm'>>
  ): Answer<State> => ({
    state,
    action,
    tempo: constantTempo(bpm),
    why: { code, values: { bpm, ...(values as Reason['values'] | undefined) } },
  });

/** The same tempo again. */
export const hold = answer('hold');
/** A faster tempo. */
export const raise = answer('raise');
/** A slower tempo. */
export const lower = answer('lower');

/** A clean repetition of the goal, the so many-eth in a row: reached with the last of `needed`, before that once more. */
export const atGoal = <State>(state: State, bpm: number, inARow: number, needed: number): Answer<State> =>
  inARow >= needed
    ? { state, action: 'goal', tempo: constantTempo(bpm), why: makeReason('goal', { bpm, times: inARow }) }
    : hold(state, bpm, 'climb-goal', { more: needed - inARow });
