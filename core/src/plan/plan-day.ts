import { rollup } from 'd3-array';
import type { DayPlan } from '../schema/day-plan';
import { practiceConfigId } from '../schema/practice-config';
import { makeReason, type Reason } from '../schema/reason';
import { addWork, EDGE_MIN } from './day-work';
import { inOrder } from './order-blocks';
import type { PlanInput } from './plan-item';
import type { Making } from './plan-making';
import { fastMinutes, playedShares } from './slow-budget';
import { addVisits } from './visits';
import { addWarmUp, musicAtTheEnd } from './warm-up-and-music';
import { withBreaks } from './with-breaks';

/**
 * A day's plan from goals, what is due and the minutes there are: a warm-up, visits to what is due, work at the edge with a method for
 * the weak spot that was measured, slow work as the budget asks, and music at the end. Minutes, the cap of each passage and the
 * slow budget are kept; what is due and does not fit is named with its reason, and comes first the next time. The same input gives the
 * same plan.
 */
export const planDay = (input: PlanInput): DayPlan => {
  const { day, length, settings, items, played } = input;
  const { capMin, breakMin, breakAfterMin, slowPct } = settings;
  const breaks = breakAfterMin > 0 ? Math.max(0, Math.ceil(length.minutes / (breakAfterMin + breakMin)) - 1) : 0;
  const totalMin = Math.max(0, Math.floor(length.minutes - breaks * breakMin));
  const today = played.filter((one) => one.day === day);
  const making: Making = {
    drafts: [],
    leftOut: [],
    leftMin: totalMin,
    fastLeftMin: Math.floor(fastMinutes(playedShares(played, day), slowPct, totalMin)),
    spentMin: rollup(
      today,
      (own) => own.reduce((sum, { playedS }) => sum + playedS / 60, 0),
      (one) => practiceConfigId(one),
    ),
  };
  addWarmUp(making, input, totalMin);
  const last = musicAtTheEnd(making, input, totalMin);
  addVisits(making, input);
  addWork(making, input);
  const ordered = [...inOrder(making.drafts, settings.order), ...(last ? [last] : [])];
  // What was left out of the visits may have found its place in the work.
  const planned = new Set(ordered.map(({ config }) => practiceConfigId(config)));
  const leftOut = making.leftOut.filter(({ config }) => !planned.has(practiceConfigId(config)));
  const minutes = ordered.reduce((sum, one) => sum + one.minutes, 0);
  const whys = [
    length.why,
    ...(ordered.length > 0 ? [makeReason(`order-${settings.order}`)] : []),
    ...(slowPct === null || ordered.length === 0 ? [] : [budgetWhy(input, slowPct)]),
    ...(totalMin - minutes >= EDGE_MIN && items.length > 0
      ? [makeReason('day-capped', { cap: capMin, minutes: totalMin - minutes })]
      : []),
  ];
  const blocks = withBreaks(ordered, breaks, settings);
  return { day, minutes: length.minutes, blocks, leftOut, whys, ...(input.isLight ? { isLight: true } : {}) };
};

const budgetWhy = ({ played, day }: PlanInput, slowPct: number): Reason => {
  const { slowS, fastS } = playedShares(played, day);
  if (slowS + fastS < 60) return makeReason('budget-new', { asked: slowPct });
  return makeReason('budget', { asked: slowPct, was: Math.round((100 * slowS) / (slowS + fastS)) });
};
