import { canBreakOff } from '../listen/completion';
import { barStarts } from '../schema/frame';
import type { Drill } from '../schema/grid';
import type { RepetitionPlan } from '../time/repetition-plan';
import { openTempo } from '../time/tempo-map';

/** So long before the next bar it is decided, in seconds: its clicks come on time, and who begins a little early is heard. */
const DECIDED_BEFORE_S = 0.3;
/** After so many bars nobody comes, or nobody is heard: then it is judged as silence, and said what listens (our choice). */
export const MAX_COUNTED_ON = 8;

/** How long the first bar of a drill lasts in a plan, in seconds. */
export const firstBarS = ({ grid }: Drill, { tempo }: RepetitionPlan): number =>
  openTempo(tempo).timeOf(barStarts(grid)[1]?.valueOf() ?? 0);

/**
 * Until when the first note of a repetition is waited for, in seconds on the plan's clock, before it is counted on for another bar: shortly
 * before its first bar is over. Undefined where that says nothing: at a tempo of the player's own, along with a recording, where the first
 * bar is too short, or has no note by then.
 */
export const waitUntilS = (plan: RepetitionPlan, drill: Drill): number | undefined => {
  const [first] = plan.notes;
  if (!first || plan.tempo.kind !== 'constant' || drill.playAlong || !canBreakOff(drill)) return undefined;
  const untilS = plan.downbeatS + firstBarS(drill, plan) - DECIDED_BEFORE_S;
  return untilS > first.timeS + first.intervalS ? untilS : undefined;
};
