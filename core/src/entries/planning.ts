export { isAfterPain, lighterDay, lowerStart } from '../plan/after-pain';

/** Days and weeks: plans, what is due, goals, configurations of practice. At `@isochron/core/planning`. */

// Reasons are made by codes that the dictionaries name.
import type {} from '../words/describe-reason';

export { lastTimeOf, takeReason } from '../plan/against-last-time';
export { askedBpm } from '../plan/asked-bpm';
export { changedSince } from '../plan/changed-since';
export { dailySummaryOf } from '../plan/daily-summary';
export { type DayMinutes, dayMinutes, SHORT_DAY_MIN } from '../plan/day-minutes';
export { bearableDays, type Due, dueOf } from '../plan/due';
export { addBlock, moveBlock, ownBlock, resizeBlock, skipBlock, swapBlock } from '../plan/edit-plan';
export { type Forgetting, fitForgetting, fitPassage, lostAfter, type Opening, openingsOf } from '../plan/forgetting';
export { type CleanDay, type GoalRange, goalRange } from '../plan/goal-range';
export { howItWent, type TriedBefore, triedBefore } from '../plan/how-it-went';
export { configTitle, listedConfigs } from '../plan/listed-configs';
export { mostOftenWeak, type OftenWeak } from '../plan/most-often-weak';
export { type JudgedRepetition as StartOutcome, nextStart } from '../plan/next-start';
export { planDay } from '../plan/plan-day';
export type { PlanInput, PlanItem } from '../plan/plan-item';
export {
  afterCorrection,
  afterTake,
  type ConfigurablePassage,
  changePracticeConfig,
  configuredGoalBpm,
  drillOf,
  drillsOfConfig,
  firstDrill,
  goalChange,
  lastPlayedAt,
  lineOf,
  newPracticeConfig,
  passageGrid,
  practiceConfigOf,
  practiceModeName,
  practiceModeOf,
  type Selection,
  variantGrid,
} from '../plan/practice-config';
export { shortestSectionWith } from '../plan/shortest-section';
export { BUDGET_DAYS, fastMinutes, playedShares } from '../plan/slow-budget';
export { startTempo } from '../plan/start-tempo';
export { summariseTake } from '../plan/summarise-take';
export { type ConfigPart, changesToUsual } from '../plan/usual-config';
export { isKeptForWarmUp } from '../plan/warm-up-and-music';
export { type Total, totalOf, totals, weekOf } from '../plan/weeks';
