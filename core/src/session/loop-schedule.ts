import { otherLevelFor } from '../measure/dynamics';
import { summariseTake } from '../plan/summarise-take';
import type { Drill } from '../schema/grid';
import { nextRepetitionKind, snapshotOf, startAfter } from '../strategies/strategies';
import { drillTempo } from '../time/drill-tempo';
import { planRepetition } from '../time/repetition-plan';
import { firstBarS, MAX_COUNTED_ON, waitUntilS } from './counting-on';
import { farS } from './loop-repetition';
import type { LoopEnd, LoopState, Step } from './loop-state';
import type { Round } from './round';
import { chosenCount, drillFor } from './strategy-drills';

/** The least time from a decision to the next click. */
export const LEAD_S = 0.2;
/** Time to settle after a repetition was broken off, before the next count-in. */
export const AFTER_CUT_S = 1;

/** Where a state's drill stands among those that are played in turn. */
export const roundOf = ({ drills, drillIndex, target }: LoopState): Round => ({
  index: drillIndex,
  of: chosenCount(drills),
  until: drills[drillIndex]?.until ?? 'clean',
  nextNotches: drills[drillIndex + 1]?.notches ?? 0,
  startBpm: target.startBpm,
});

/** Plans the next repetition from `startS` on and asks for its clicks; `countedOn` is by how many bars it was counted on already. */
export const schedule = (state: LoopState, startS: number, countedOn = 0): Step => {
  const { drills, drillIndex, decisions } = state;
  // On its way to the end a take asks for nothing special.
  const repetitionKind = decisions.finishCleans === null ? nextRepetitionKind(decisions.strategy) : 'asked';
  const played = state.repetitions.map((one) => one.drill);
  const place = state.retake?.drill ?? drillFor(drills, repetitionKind, drillIndex, played);
  const drill = drills[place] as Drill;
  const plan = planRepetition({ drill, tempo: drillTempo(drill, state.tempo), startS });
  return {
    state: { ...state, phase: 'counting', plan, drill, countedOn },
    effects: [
      {
        type: 'schedule',
        plan,
        drill,
        repetition: state.repetitions.length,
        offset: { ...state.offset, farS: farS(state.tempo) },
        otherLevel: otherLevelFor(drill, drills, state.repetitions),
        ...(state.target.waits && countedOn < MAX_COUNTED_ON ? { waitUntilS: waitUntilS(plan, drill) } : {}),
        ...(countedOn > 0 ? { isCountedOn: true } : {}),
      },
    ],
  };
};

/** Nothing was played yet: the bar that is about to end was one more of the count-in, and the pulse goes on. */
export const onNotBegun = (state: LoopState): Step => {
  const { plan, drill } = state;
  if (!plan || !drill || (state.phase !== 'playing' && state.phase !== 'counting') || state.concluding)
    return { state, effects: [] };
  const next = schedule(state, plan.countInStartS + firstBarS(drill, plan), state.countedOn + 1);
  return { state: next.state, effects: [{ type: 'silence' }, ...next.effects] };
};

/** What a take comes to so far. */
export const summaryOf = (state: LoopState) =>
  summariseTake(state, state.target.goalBpm, state.target.startBpm, startAfter(snapshotOf(state.decisions.strategy)));

/** The end of a take. */
export const finish = (state: LoopState, ended: LoopEnd): Step => ({
  state: {
    ...state,
    phase: 'finished',
    ended,
    plan: null,
    summary: summaryOf(state),
  },
  effects: [{ type: 'silence' }, { type: 'finish' }],
});
