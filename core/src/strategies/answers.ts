import { makeReason, type Reason, type ReasonCode } from '../schema/reason';
import { constantTempo } from '../time/tempo-map';
import type { Answer } from './strategy';

type Values = Reason['values'];

const answer =
  (action: 'hold' | 'raise' | 'lower') =>
  <State>(state: State, bpm: number, code: ReasonCode, values: Values = {}): Answer<State> => ({
    state,
    action,
    tempo: constantTempo(bpm),
    why: makeReason(code, { bpm, ...values }),
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
