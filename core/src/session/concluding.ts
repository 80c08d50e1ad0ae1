import { AFTER_CUT_S, finish, LEAD_S, schedule } from './loop-schedule';
import { isUnderWay, type LoopState, type Step } from './loop-state';

/** Ends the repetition that sounds, to stop there or to begin it again; asked a second time, it stops at once. */
const onConclude = (state: LoopState, why: 'stop' | 'again'): Step =>
  state.concluding === 'stop'
    ? finish(state, 'stopped')
    : { state: { ...state, concluding: why }, effects: [{ type: 'conclude', byHand: why === 'stop' }] };

/** The player stops: what sounds is kept as far as it went. */
export const onStop = (state: LoopState): Step => {
  if (state.phase === 'playing') return onConclude(state, 'stop');
  return isUnderWay(state) ? finish(state, 'stopped') : { state, effects: [] };
};

/** What is counted in is counted in afresh; what sounds is broken off first. */
export const onAgain = (state: LoopState, nowS: number): Step => {
  if (state.phase === 'playing' && state.concluding === null) return onConclude(state, 'again');
  if (state.phase !== 'counting') return { state, effects: [] };
  const next = schedule(state, nowS + LEAD_S);
  return { state: next.state, effects: [{ type: 'silence' }, ...next.effects] };
};

/** What was to be concluded had hardly a note. */
export const onNothingHeard = (state: LoopState, nowS: number): Step => {
  if (!isUnderWay(state) || state.concluding === null) return { state, effects: [] };
  if (state.concluding === 'stop') return finish(state, 'stopped');
  const next = schedule({ ...state, concluding: null }, nowS + AFTER_CUT_S);
  return { state: next.state, effects: [{ type: 'silence' }, ...next.effects] };
};
