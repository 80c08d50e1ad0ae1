import { type OffsetGuess, UNKNOWN_OFFSET } from '../align/align';
import type { AnalysedRepetition } from '../measure/analyse-repetition';
import type { OtherLevel } from '../measure/dynamics';
import type { Drill } from '../schema/grid';
import type { AfterBreak } from '../schema/settings';
import type { Ease, Repetition, TempoAction } from '../schema/take';
import type { TakeSummary } from '../schema/take-summary';
import type { TempoMapDocument } from '../schema/tempo';
import { beginDecisions, type DecisionState, type PendingDecision } from '../strategies/decide';
import { beginStrategy, type StrategyRun } from '../strategies/strategies';
import type { RepetitionOutcome, SessionTarget } from '../strategies/strategy';
import type { RepetitionPlan } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import type { Round } from './round';

/**
 * The practice loop as a pure state machine: {@link advance} takes a state and an event and gives the next state and
 * the effects to carry out. All times are seconds on the audio clock.
 */
export type LoopPhase = 'idle' | 'counting' | 'playing' | 'problem' | 'finished';
export type LoopEnd = 'goal' | 'stopped' | 'pain' | 'input-lost' | 'relaxed' | 'time';

/** The last decision with all it was taken from, so that it can be taken again when an answer about ease comes late. */
export interface Decided {
  before: DecisionState;
  played: RepetitionOutcome;
  pending: PendingDecision | null;
  /** The player's own tempo, where it overruled the strategy. */
  wishedBpm: number | null;
  round: Round;
}

export interface LoopState {
  phase: LoopPhase;
  /** The drill that is asked for now; null before the beginning. */
  drill: Drill | null;
  /** All that are played: first those that were chosen, in turn, then what the strategy asks for; and which of the chosen ones it is. */
  drills: readonly Drill[];
  drillIndex: number;
  target: SessionTarget;
  decisions: DecisionState;
  /** The tempo of the repetition that is planned or sounding. */
  tempo: TempoMapDocument;
  plan: RepetitionPlan | null;
  /** When the recording began, less what was left out of it: stored times count from here. */
  recordingStartS: number;
  /** Since when nothing is recorded, because the loop stands still; null while it is recorded. */
  recordingPausedS: number | null;
  repetitions: Repetition[];
  decided: Decided | null;
  /** A decision that the sounding repetition came too early for. */
  pending: PendingDecision | null;
  /** A tempo that the player asked for while playing; it rules the next decision. */
  wishedBpm: number | null;
  /** Where the next pairing looks for the latency. */
  offset: OffsetGuess;
  /** An offset far from where it was looked for, which one repetition alone does not settle; null where none was met. */
  strangeOffsetS: number | null;
  /** The place that is taken up after it broke off there, among the drills, and how often more; null where the drill is played from its beginning. */
  retake: { drill: number; left: number } | null;
  /** Why the repetition that sounds is being concluded before its end; null where it goes on. */
  concluding: 'stop' | 'again' | null;
  /** By how many bars the repetition was counted on, since nobody had begun. */
  countedOn: number;
  /** Whether the repetition that sounds is the last one, because the time is up. */
  timeIsUp: boolean;
  ended: LoopEnd | null;
  summary: TakeSummary | null;
}

/** What the player does, by key, pedal or mishap. */
export type PlayerEvent =
  | { type: 'ease'; ease: Ease }
  | { type: 'wish'; changeBpm: number }
  | { type: 'drill'; step: 1 | -1 }
  /** Where a repetition that broke off is taken up, from now on. */
  | { type: 'after-break'; how: AfterBreak }
  | { type: 'resume' }
  /** To end loose, below the edge. */
  | { type: 'finish' }
  /** The time for this is up: loose to the end where that is wished, else after this repetition. */
  | { type: 'time-up' }
  /** It broke off, or was begun wrong: counted in again. */
  | { type: 'again' }
  | { type: 'stop' }
  | { type: 'input-lost' };

export type LoopEvent =
  | {
      type: 'begin';
      /** What is played in turn, at least one; `drillIndex` is the first. */
      drills: readonly Drill[];
      drillIndex?: number;
      target: SessionTarget;
      strategy: StrategyRun;
      /** Where a take that was broken off stood beside its strategy. */
      isBack?: boolean;
      finishCleans?: number | null;
      tense?: number;
      tempo: TempoMapDocument;
      nowS: number;
      recordingStartS: number;
      /** Where the first pairing looks for the latency. */
      offset: OffsetGuess;
    }
  | { type: 'clock'; nowS: number }
  | { type: 'analysed'; analysed: AnalysedRepetition; nowS: number }
  /** The repetition that was to be concluded had hardly a note. */
  | { type: 'nothing-heard'; nowS: number }
  /** Nothing was played until the repetition would be counted on. */
  | { type: 'not-begun'; nowS: number }
  | (PlayerEvent & { nowS: number });

export type LoopEffect =
  | {
      type: 'schedule';
      plan: RepetitionPlan;
      drill: Drill;
      repetition: number;
      offset: OffsetGuess;
      /** The last repetition at another level, where the drill is about that. */
      otherLevel: OtherLevel | null;
      /** Until when the first note is waited for, see listen/expectation.ts. */
      waitUntilS?: number;
      isCountedOn?: boolean;
    }
  | { type: 'silence' }
  /** What sounds ends here: judged as far as it went. */
  | { type: 'conclude'; byHand: boolean }
  /** `far`: how far the tempo steps, as a share of what it was. */
  | { type: 'announce'; what: TempoAction | 'not-judged'; far: number }
  | { type: 'keep' }
  /** From then on nothing is recorded; from then on it is again. */
  | { type: 'pause-recording'; atS: number }
  | { type: 'resume-recording'; atS: number }
  | { type: 'finish' };

export interface Step {
  state: LoopState;
  effects: LoopEffect[];
}

export const IDLE: LoopState = {
  phase: 'idle',
  drill: null,
  drills: [],
  drillIndex: 0,
  target: { goalBpm: 120, startBpm: 60 },
  decisions: beginDecisions(beginStrategy('half-speed-climb', null)),
  tempo: constantTempo(60),
  plan: null,
  recordingStartS: 0,
  recordingPausedS: null,
  repetitions: [],
  decided: null,
  pending: null,
  wishedBpm: null,
  offset: UNKNOWN_OFFSET,
  strangeOffsetS: null,
  retake: null,
  concluding: null,
  countedOn: 0,
  timeIsUp: false,
  ended: null,
  summary: null,
};

export const isUnderWay = ({ phase }: LoopState) => phase !== 'idle' && phase !== 'finished';
