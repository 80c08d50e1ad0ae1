/** How the tempo goes: tempo strategies, the loop of practice, tempo curves. At `@isochron/core/strategy`. */

// Reasons are made by codes that the dictionaries name.
import type {} from '../words/describe-reason';

export { type BothSides, bothSides, bothSidesReason, lastBreak } from '../curve/both-sides';
export { breakTempo, type SweptNote } from '../curve/break-tempo';
export { compareCurves } from '../curve/compare-curves';
export { breakReason, curveSentences, variantsSentence } from '../curve/curve-sentences';
export { type Progress, type ProgressPoint, periodDaysFor, progressOf } from '../curve/progress';
export { ofPart, recentRepetitions } from '../curve/recent-repetitions';
export { sweptNotes } from '../curve/swept-notes';
export { EASY_CHANCE, EDGE_CHANCE, type TempoCurve, type TempoRange, tempoCurve } from '../curve/tempo-curve';
export type { Tried } from '../curve/unsteadiness-fit';
export { compareStrategies, type StrategyLine, strategiesSentence } from '../session/compare-strategies';
export { configuredStart } from '../session/configured-start';
export { daySentences } from '../session/day-sentences';
export { deriveTake, figuresOf, type TakeFigures, withRepetition } from '../session/derive-take';
export { loggedTake } from '../session/logged-take';
export { advance } from '../session/loop';
export { IDLE, type LoopEffect, type LoopEnd, type LoopEvent, type LoopState, type PlayerEvent } from '../session/loop-state';
export { completeTake, makeTake } from '../session/make-take';
export { mergeTake } from '../session/merge-take';
export { pairedRepetitions } from '../session/paired-repetitions';
export { playedOn, REST_MIN, restDue, type Stretch } from '../session/playing-stretch';
export { enterBlock, practiceSessionAt, standAt, underWay } from '../session/practice-session';
export { type HardPlace, hardPlace, problemQuestions } from '../session/problem-solving';
export { type Proposal, proposeStrategy } from '../session/propose-strategy';
export {
  afterTakeInRun,
  beginRun,
  blockAfter,
  configForBlock,
  isAtWork,
  isOfToday,
  leftMs,
  nextInRun,
  pauseRun,
  restLeftMs,
  resumeRun,
  runBlock,
} from '../session/session-run';
export { chosenCount, withStrategyDrills } from '../session/strategy-drills';
export { triedOf } from '../strategies/adaptive';
export { beginDecisions, decide } from '../strategies/decide';
export {
  beginStrategy,
  nextRepetitionKind,
  optionsOf,
  resumeStrategy,
  STRATEGIES,
  snapshotOf,
  strategyOf,
  strategyStart,
} from '../strategies/strategies';
export type { RepetitionOutcome, SessionTarget } from '../strategies/strategy';
