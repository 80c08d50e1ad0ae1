import { makeReason, type Reason } from '../schema/reason';
import type { Decision } from '../schema/take';
import type { TempoMapDocument } from '../schema/tempo';
import { clampBpm, clampTempo } from '../time/clamp-tempo';
import { constantTempo, headlineBpm } from '../time/tempo-map';
import { hold, lower } from './answers';
import { beforeRaise } from './before-a-raise';
import { downFrom } from './down-from';
import { guardRuling, isProblem, type Ruling } from './guards';
import { beginFinish, fallsApart, finishAfter } from './relaxed-finish';
import { type StrategyRun, strategyOf } from './strategies';
import type { Answer, RepetitionOutcome, SessionTarget } from './strategy';
import { STUCK_BY } from './stuck';

/** What decisions rest on between two repetitions: the strategy, and what stands over every strategy. */
export interface DecisionState {
  strategy: StrategyRun;
  /** How much was not clean in a row: close ones count half. */
  failedInARow: number;
  /** How many repetitions that were. */
  notCleanInARow: number;
  /** Which repetitions of the take were clean. */
  clean: readonly boolean[];
  /** Those since it last went down, the last few of them. */
  strain: readonly boolean[];
  /** What was played at the tempo at work. */
  here: { bpm: number; played: number; cleanInARow: number };
  /** Whether it was clean beyond the goal, and is on its way back. */
  isBack: boolean;
  /** Clean ones of the relaxed finish so far; null before it. */
  finishCleans: number | null;
  /** How often it felt tense since it last felt easy: until then it does not go up. */
  tense: number;
}

/** The state of decisions at the beginning of a loop. */
export const beginDecisions = (strategy: StrategyRun): DecisionState => ({
  strategy,
  failedInARow: 0,
  notCleanInARow: 0,
  clean: [],
  strain: [],
  here: { bpm: 0, played: 0, cleanInARow: 0 },
  isBack: false,
  finishCleans: null,
  tense: 0,
});

/** So many tense ones before any easy one are failing, and the loop stops to think (our choice, no source). */
const TENSE_BEFORE_PROBLEM = 3;

/** A decision that came too late for the repetition that was sounding, and takes effect after it. */
export interface PendingDecision {
  tempo: TempoMapDocument;
  /** The code of its reason, where it is not a late answer about ease. */
  code?: 'finish-wish';
  /** Why it leads to a pause for thought, where it does. */
  problem?: Reason;
}

/** A reason with the tempo that is really meant: clamping may have changed it. */
const restated = (reason: Reason, bpm: number): Reason =>
  'bpm' in reason.values ? { ...reason, values: { ...reason.values, bpm } } : reason;

/** Within the range of tempos; a lowering never goes up, a raise never down. */
const inBounds = (ruling: Ruling, fromBpm: number): Ruling => {
  const tempo = clampTempo(ruling.tempo);
  const bpm = headlineBpm(tempo);
  const moved = bpm - fromBpm;
  if ((ruling.action === 'lower' && moved >= 0) || (ruling.action === 'raise' && moved <= 0)) {
    const end = ruling.action === 'lower' ? 'slowest' : 'fastest';
    return { action: 'hold', tempo: constantTempo(fromBpm), why: makeReason(end, { bpm: fromBpm }) };
  }
  return { ...ruling, tempo, why: restated(ruling.why, bpm) };
};

/** The pending decision takes effect, unless the repetition asks for something slower still. */
const settled = (pending: PendingDecision, ruling: Ruling | null, fromBpm: number): Ruling => {
  const pendingBpm = headlineBpm(pending.tempo);
  if (ruling?.action === 'stop' || (ruling?.action === 'lower' && headlineBpm(ruling.tempo) < pendingBpm)) return ruling;
  if (pending.problem) return { action: 'problem', tempo: pending.tempo, why: pending.problem };
  const action = pendingBpm < fromBpm ? 'lower' : pendingBpm > fromBpm ? 'raise' : 'hold';
  return { action, tempo: pending.tempo, why: makeReason(pending.code ?? 'as-answered', { bpm: pendingBpm }) };
};

type StrategyAnswer = Answer<StrategyRun['state']>;

/** What the strategy says, under the goal that it climbs to; once clean beyond the goal, back to the goal itself. */
const askStrategy = (
  decisions: DecisionState,
  played: RepetitionOutcome,
  target: SessionTarget,
): { answer: StrategyAnswer; isBack: boolean } => {
  const { id, options, state } = decisions.strategy;
  const strategy = strategyOf(id);
  const overshootPct = Math.max(target.overshootPct ?? 0, strategy.overshootPct?.(options) ?? 0);
  const beyondBpm = clampBpm(Math.round(target.goalBpm * (1 + overshootPct / 100)));
  const goesBeyond = !decisions.isBack && beyondBpm > target.goalBpm;
  const answer = strategy.next(state, played, options, goesBeyond ? { ...target, goalBpm: beyondBpm } : target);
  if (answer.action !== 'goal' || !goesBeyond) return { answer, isBack: decisions.isBack };
  const anew = strategy.begin(options, strategy.close(answer.state));
  const reason = makeReason('beyond-back', { bpm: target.goalBpm, beyond: played.bpm });
  return { answer: { state: anew, action: 'lower', tempo: constantTempo(target.goalBpm), why: reason }, isBack: true };
};

/** Below so many beats a minute a step in beats is a wide one: it is so much of the tempo at most (our choice, no source). */
const SLOW_BPM = 60;
const WIDEST_SLOW_SHARE = 0.08;

/**
 * A raise waits for enough repetitions, and after a tense one for an easy one; until then the strategy stays where it was. Slow tempos go
 * up by little.
 */
const heldBack = (
  answer: StrategyAnswer,
  decisions: DecisionState,
  played: RepetitionOutcome,
  target: SessionTarget,
  here: DecisionState['here'],
): StrategyAnswer => {
  if (answer.action !== 'raise') return answer;
  const { state } = decisions.strategy;
  if (decisions.tense > 0 && played.ease !== 'easy') return hold(state, played.bpm, 'until-easy');
  const waits = beforeRaise(played, target, here);
  if (waits) return hold(state, played.bpm, waits.code, { more: waits.more });
  const most = played.bpm + Math.max(1, Math.floor(WIDEST_SLOW_SHARE * played.bpm));
  const isWide = played.bpm < SLOW_BPM && headlineBpm(answer.tempo) > most;
  return isWide ? { ...answer, tempo: constantTempo(most) } : answer;
};

/** After so many repetitions of which less than every other was clean it goes down, whatever the strategy: by this share (our choice). */
const STRAIN_REPETITIONS = 6;
const STRAIN_SHARE = 0.04;

/** Nobody is kept where less than every other repetition is clean, but by their own choice. */
const unstrained = (
  answer: StrategyAnswer,
  strain: readonly boolean[],
  played: RepetitionOutcome,
  target: SessionTarget,
): StrategyAnswer => {
  const cleans = strain.filter((isClean) => isClean).length;
  if (answer.action === 'lower' || strain.length < STRAIN_REPETITIONS || 2 * cleans >= strain.length) return answer;
  const { bpm } = downFrom(played, Math.max(1, Math.round(STRAIN_SHARE * played.bpm)), target);
  return bpm < played.bpm ? lower(answer.state, bpm, 'strain', { cleans, of: strain.length }) : answer;
};

const countedHere = ({ here }: DecisionState, { bpm }: RepetitionOutcome, isClean: boolean): DecisionState['here'] => {
  const before = here.bpm === bpm ? here : { bpm, played: 0, cleanInARow: 0 };
  return { bpm, played: before.played + 1, cleanInARow: isClean ? before.cleanInARow + 1 : 0 };
};

const failing = (decisions: DecisionState, { verdict }: RepetitionOutcome) => ({
  notCleanInARow: decisions.notCleanInARow + 1,
  failedInARow: decisions.failedInARow + STUCK_BY[verdict.outcome],
});

/**
 * The next tempo after a repetition: the guards first, then what is pending, then the relaxed finish or the strategy, then the guard against
 * endless failing. Everything is clamped here and nowhere else. Pure: the same state and repetition give the same decision, so that a
 * late answer about ease has it taken again from the state before.
 */
export const decide = (
  decisions: DecisionState,
  played: RepetitionOutcome,
  target: SessionTarget,
  pending: PendingDecision | null = null,
): { decisions: DecisionState; decision: Decision } => {
  const { ease, verdict } = played;
  const told = decideAs(decisions, played, target, pending);
  if (ease === 'easy') return { ...told, decisions: { ...told.decisions, tense: 0 } };
  if (ease !== 'tense') return told;
  const tense = decisions.tense + 1;
  const { strategy } = told.decisions;
  const state = strategyOf(strategy.id).tense?.(strategy.state, played, target) ?? strategy.state;
  const noted = { ...told, decisions: { ...told.decisions, strategy: { ...strategy, state }, tense } };
  if (pending || verdict.outcome === 'not-judged' || decisions.finishCleans !== null) return noted;
  // As the strategy has it where that is slower; what is tense again and again is failing, however even it is.
  const asked = decideAs(decisions, { ...played, ease: 'working' }, target);
  const slower = headlineBpm(asked.decision.tempo) < headlineBpm(told.decision.tempo) ? asked.decision : told.decision;
  const { tempo } = slower;
  if (asked.decision.action === 'problem')
    return { decisions: { ...asked.decisions, tense }, decision: { ...asked.decision, tempo } };
  if (tense % TENSE_BEFORE_PROBLEM === 0)
    return {
      ...noted,
      decision: {
        action: 'problem',
        tempo,
        why:
          played.bpm <= SLOW_BPM
            ? makeReason('problem-tense-slow', { times: tense, bpm: played.bpm })
            : makeReason('problem-tense', { times: tense }),
        overruled: false,
      },
    };
  return slower === asked.decision ? { decisions: { ...asked.decisions, tense }, decision: slower } : noted;
};

/** The decision as the guards and the strategy have it. */
const decideAs = (
  decisions: DecisionState,
  played: RepetitionOutcome,
  target: SessionTarget,
  pending: PendingDecision | null = null,
): { decisions: DecisionState; decision: Decision } => {
  const done = (next: DecisionState, ruling: Ruling) => ({
    decisions: next,
    decision: { ...inBounds(ruling, played.bpm), overruled: false },
  });
  const ruling = guardRuling(played);
  if (pending) return done(decisions, settled(pending, ruling, played.bpm));
  if (ruling) return done(decisions, ruling);
  // A place that is taken up again tells nothing of the whole.
  if (played.repetitionKind === 'retake')
    return done(decisions, {
      action: 'hold',
      tempo: constantTempo(played.bpm),
      why: makeReason('retake-again', { bpm: played.bpm }),
    });
  const isClean = played.verdict.outcome === 'clean';
  if (decisions.finishCleans !== null) {
    const { answer, cleans } = finishAfter(decisions.strategy.state, played, decisions.finishCleans);
    return done({ ...decisions, finishCleans: cleans }, withoutState(answer));
  }
  // One stumble says nothing about the tempo, nor does breaking off once; a second one in a row is the strategy's.
  const { reason: cause } = played.verdict;
  if ((cause === 'stumble' || cause === 'broken-off') && decisions.failedInARow === 0 && !played.repetitionKind) {
    const { failedInARow, notCleanInARow } = failing(decisions, played);
    const here = countedHere(decisions, played, false);
    const why = makeReason(cause === 'stumble' ? 'stumbled' : 'broke-off', { bpm: played.bpm });
    return done(
      { ...decisions, failedInARow, notCleanInARow, here, clean: [...decisions.clean, false] },
      { action: 'hold', tempo: constantTempo(played.bpm), why },
    );
  }
  const { answer: told, isBack } = askStrategy(decisions, played, target);
  if (played.repetitionKind) {
    // A sweep is meant to break, a burst to be wild: neither counts as failing.
    return done({ ...decisions, strategy: { ...decisions.strategy, state: told.state }, isBack }, withoutState(told));
  }
  const here = countedHere(decisions, played, isClean);
  const strain = [...decisions.strain, isClean].slice(-STRAIN_REPETITIONS);
  const asked = heldBack(told, decisions, played, target, here);
  const { leavesTempo } = strategyOf(decisions.strategy.id);
  const answer = leavesTempo ? asked : unstrained(asked, strain, played, target);
  const counted: DecisionState = {
    ...decisions,
    strategy: { ...decisions.strategy, state: answer.state },
    ...(isClean ? { notCleanInARow: 0, failedInARow: 0 } : failing(decisions, played)),
    clean: [...decisions.clean, isClean],
    strain: answer.action === 'lower' ? [] : strain,
    here,
    isBack,
  };
  if (target.relaxedFinish && fallsApart(counted.clean) && answer.action !== 'goal')
    return done({ ...counted, finishCleans: 0 }, withoutState(beginFinish(answer.state, played)));
  if (!isProblem(counted.failedInARow)) return done(counted, withoutState(answer));
  const reason =
    played.bpm <= SLOW_BPM
      ? makeReason('problem-slow', { tries: counted.notCleanInARow, bpm: played.bpm })
      : makeReason('problem', { tries: counted.notCleanInARow });
  return done({ ...counted, failedInARow: 0, notCleanInARow: 0 }, { action: 'problem', tempo: answer.tempo, why: reason });
};

const withoutState = ({ action, tempo, why: reason }: StrategyAnswer): Ruling => ({ action, tempo, why: reason });

/** The state on its way to the relaxed finish, because the player asked for it or the time is up. */
export const toFinish = (decisions: DecisionState): DecisionState => ({ ...decisions, finishCleans: 0 });
