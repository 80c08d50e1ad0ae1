import type { AnalysedRepetition } from '../measure/analyse-repetition';
import type { AfterBreak } from '../schema/settings';
import type { Decision, Ease, Repetition } from '../schema/take';
import { beginDecisions, toFinish } from '../strategies/decide';
import { FINISH_DROP_BPM } from '../strategies/relaxed-finish';
import { clampBpm } from '../time/clamp-tempo';
import type { RepetitionPlan } from '../time/repetition-plan';
import { constantTempo, headlineBpm } from '../time/tempo-map';
import { onAgain, onNothingHeard, onStop } from './concluding';
import { offsetAfter, playedOf, restS, sameTempo, toStored } from './loop-repetition';
import { AFTER_CUT_S, finish, LEAD_S, onNotBegun, roundOf, schedule, summaryOf } from './loop-schedule';
import { type Decided, IDLE, isUnderWay, type LoopEffect, type LoopEvent, type LoopState, type Step } from './loop-state';
import { withPauses } from './recording-pauses';
import { afterRetake, withRetake } from './retake';
import { drillAfter } from './round';
import { takeDecision } from './take-decision';

/** Time from asking for the first click to hearing it. */
const FIRST_LEAD_S = 0.7;

const isSweep = ({ drill }: LoopState): boolean => drill?.repetitionKind === 'sweep';

/** The decision on a repetition that was measured, and the state with it. */
const decided = (
  state: LoopState,
  plan: RepetitionPlan,
  analysed: AnalysedRepetition,
): { state: LoopState; decision: Decision } => {
  if (state.retake && state.drill?.repetitionKind === 'retake' && !state.pending && state.wishedBpm === null) {
    const told = afterRetake(state, analysed);
    return { state: { ...told.state, decided: null }, decision: told.decision };
  }
  const { wishedBpm, pending } = state;
  const played = playedOf(state, plan, analysed);
  const rests: Decided = { before: state.decisions, played, pending, wishedBpm, round: roundOf(state) };
  const { decisions, decision } = takeDecision(rests, state.target);
  const drillIndex = drillAfter(rests.round, played, decision);
  const next = { ...state, decisions, decided: rests, drillIndex };
  const goesOn = decision.action !== 'next' && !isSweep(state) && state.drill;
  return { state: goesOn ? withRetake(next, goesOn, analysed.measures) : { ...next, retake: null }, decision };
};

const onAnalysed = (state: LoopState, analysed: AnalysedRepetition, nowS: number): Step => {
  if (!state.plan || (state.phase !== 'playing' && state.phase !== 'counting')) return { state, effects: [] };
  const { plan } = state;
  const { state: next, decision } = decided(state, plan, analysed);
  const kept: LoopState = {
    ...next,
    repetitions: [...state.repetitions, toStored(state, plan, analysed, decision)],
    tempo: decision.tempo,
    wishedBpm: null,
    pending: null,
    concluding: null,
    ...offsetAfter(state, analysed),
  };
  const isUnheard = analysed.verdict.outcome === 'not-judged' && decision.action === 'hold';
  const far = Math.abs(headlineBpm(decision.tempo) / headlineBpm(state.tempo) - 1);
  const said: LoopEffect[] = [{ type: 'announce', what: isUnheard ? 'not-judged' : decision.action, far }, { type: 'keep' }];
  if (state.concluding === 'stop') {
    const ended = finish(kept, 'stopped');
    return { state: ended.state, effects: [{ type: 'keep' }, ...ended.effects] };
  }
  const goesOn = !state.timeIsUp || decision.action === 'stop';
  // What was broken off is over.
  const isCut = (isSweep(state) || analysed.measures.brokenOff !== undefined) && nowS < (plan.notes.at(-1)?.timeS ?? 0);
  const nextS = Math.max(isCut ? nowS + AFTER_CUT_S : plan.endS + restS(state, plan), nowS + LEAD_S);
  const then = goesOn ? follow(kept, decision, nextS) : finish(kept, 'time');
  return { state: then.state, effects: [...said, ...(isCut ? [{ type: 'silence' as const }] : []), ...then.effects] };
};

/** What a decision leads to: the end, a pause for thought, or the next repetition from `startS` on. */
const follow = (state: LoopState, decision: Decision, startS: number): Step => {
  if (decision.action === 'goal') return finish(state, 'goal');
  if (decision.action === 'done') return finish(state, 'relaxed');
  if (decision.action === 'stop') return finish(state, 'pain');
  if (decision.action === 'problem')
    return { state: { ...state, phase: 'problem', plan: null }, effects: [{ type: 'silence' }] };
  return schedule(state, startS);
};

/**
 * Takes the last decision again, with what has become known: the answer about ease, or the player's own tempo. The count-in that
 * has begun is replaced; a repetition that already sounds goes on, and the decision takes effect after it.
 */
const redecide = (state: LoopState, decided: Decided, ease: Ease | null, nowS: number): Step => {
  const last = state.repetitions.at(-1) as Repetition;
  const { decisions, decision } = takeDecision(decided, state.target);
  const repetitions = [...state.repetitions.slice(0, -1), { ...last, ease: ease ?? last.ease, decision }];
  const kept: LoopState = { ...state, repetitions, decisions, decided };
  const stored: LoopEffect[] = [{ type: 'keep' }];
  switch (state.phase) {
    case 'playing': {
      const sounds = state.tempo;
      const goesOn = sameTempo(sounds, decision.tempo) && decision.action !== 'problem' && decision.action !== 'goal';
      const asks = decision.action === 'problem' ? { problem: decision.why } : {};
      return { state: { ...kept, pending: goesOn ? null : { tempo: decision.tempo, ...asks } }, effects: stored };
    }
    case 'counting': {
      const leads = decision.action === 'goal' || decision.action === 'problem';
      if (!leads && sameTempo(state.tempo, decision.tempo)) return { state: kept, effects: stored };
      const startS = Math.max(nowS + LEAD_S, state.plan?.countInStartS ?? 0);
      const next = follow({ ...kept, tempo: decision.tempo }, decision, startS);
      return { state: next.state, effects: [{ type: 'silence' }, ...stored, ...next.effects] };
    }
    case 'problem':
      return { state: { ...kept, tempo: decision.tempo }, effects: stored };
    default:
      return { state: { ...kept, summary: summaryOf(kept) }, effects: stored };
  }
};

const onEase = (state: LoopState, ease: Ease, nowS: number): Step => {
  const { decided } = state;
  const last = state.repetitions.at(-1);
  if (!last || !decided) return ease === 'pain' && isUnderWay(state) ? finish(state, 'pain') : { state, effects: [] };
  const again = redecide(state, { ...decided, played: { ...decided.played, ease } }, ease, nowS);
  if (ease !== 'pain') return again;
  if (state.phase === 'finished') return { state: { ...again.state, ended: 'pain' }, effects: again.effects };
  const stopped = finish(again.state, 'pain');
  return { state: stopped.state, effects: [{ type: 'keep' }, ...stopped.effects] };
};

const onWish = (state: LoopState, changeBpm: number, nowS: number): Step => {
  if (state.phase === 'playing') {
    const from = state.wishedBpm ?? headlineBpm((state.pending ?? state).tempo);
    return { state: { ...state, wishedBpm: clampBpm(from + changeBpm) }, effects: [] };
  }
  if (state.phase !== 'counting') return { state, effects: [] };
  const wishedBpm = clampBpm(headlineBpm(state.tempo) + changeBpm);
  if (state.decided && state.repetitions.length) return redecide(state, { ...state.decided, wishedBpm }, null, nowS);
  const next = schedule({ ...state, tempo: constantTempo(wishedBpm) }, nowS + LEAD_S);
  return { state: next.state, effects: [{ type: 'silence' }, ...next.effects] };
};

/** The take goes to its loose end: at once while it is counted in, after the repetition that sounds. */
const onFinish = (state: LoopState, nowS: number): Step => {
  if (!isUnderWay(state) || state.decisions.finishCleans !== null) return { state, effects: [] };
  const tempo = constantTempo(clampBpm(headlineBpm(state.tempo) - FINISH_DROP_BPM));
  const ending: LoopState = { ...state, decisions: toFinish(state.decisions), wishedBpm: null, decided: null };
  if (state.phase === 'playing') return { state: { ...ending, pending: { tempo, code: 'finish-wish' } }, effects: [] };
  const next = schedule({ ...ending, tempo, pending: null }, nowS + LEAD_S);
  return { state: next.state, effects: [{ type: 'silence' }, ...next.effects] };
};

const onTimeUp = (state: LoopState, nowS: number): Step => {
  if (!isUnderWay(state)) return { state, effects: [] };
  if (state.target.relaxedFinish) return onFinish(state, nowS);
  return state.phase === 'playing' ? { state: { ...state, timeIsUp: true }, effects: [] } : finish(state, 'time');
};

/** The player goes to another drill: what is counted in or played is broken off for it. */
const onDrill = (state: LoopState, step: 1 | -1, nowS: number): Step => {
  const drillIndex = state.drillIndex + step;
  const drill = state.drills[drillIndex];
  if (!isUnderWay(state) || !drill || drill.repetitionKind) return { state, effects: [] };
  const moved: LoopState = { ...state, drillIndex, drill, decided: null, pending: null, retake: null };
  if (state.phase === 'problem') return { state: moved, effects: [] };
  const next = schedule(moved, nowS + LEAD_S);
  return { state: next.state, effects: [{ type: 'silence' }, ...next.effects] };
};

/** From now on what breaks off is taken up there; where it just broke, at once. */
const onAfterBreak = (state: LoopState, how: AfterBreak, nowS: number): Step => {
  const told = { ...state, target: { ...state.target, afterBreak: how } };
  const last = state.repetitions.at(-1);
  const drill = state.drills[last?.drill ?? -1];
  if (state.phase !== 'counting' || !last?.measures.brokenOff || !drill) return { state: told, effects: [] };
  const next = schedule(withRetake(told, drill, last.measures), nowS + LEAD_S);
  return { state: next.state, effects: [{ type: 'silence' }, ...next.effects] };
};

/** The next state of the loop and what is to be done. Events that make no sense in a phase change nothing. */
export const advance = (state: LoopState, event: LoopEvent): Step => withPauses(state, answer(state, event), event.nowS);

const answer = (state: LoopState, event: LoopEvent): Step => {
  switch (event.type) {
    case 'begin': {
      const { drills, target, strategy, tempo, recordingStartS, offset } = event;
      const decisions = {
        ...beginDecisions(strategy),
        isBack: event.isBack ?? false,
        finishCleans: event.finishCleans ?? null,
        tense: event.tense ?? 0,
      };
      const drillIndex = Math.min(event.drillIndex ?? 0, drills.length - 1);
      const drill = drills[drillIndex] ?? null;
      const begun = { ...IDLE, drill, drills, drillIndex, target, decisions, tempo, recordingStartS, offset };
      return schedule(begun, event.nowS + FIRST_LEAD_S);
    }
    case 'clock': {
      const first = state.plan?.notes[0];
      const isPlaying = state.phase === 'counting' && first && event.nowS >= first.timeS - first.intervalS / 2;
      return { state: isPlaying ? { ...state, phase: 'playing' } : state, effects: [] };
    }
    case 'analysed':
      return onAnalysed(state, event.analysed, event.nowS);
    case 'ease':
      return state.phase === 'idle' ? { state, effects: [] } : onEase(state, event.ease, event.nowS);
    case 'wish':
      return onWish(state, event.changeBpm, event.nowS);
    case 'drill':
      return onDrill(state, event.step, event.nowS);
    case 'after-break':
      return onAfterBreak(state, event.how, event.nowS);
    case 'finish':
      return onFinish(state, event.nowS);
    case 'time-up':
      return onTimeUp(state, event.nowS);
    case 'resume':
      return state.phase === 'problem' ? schedule(state, event.nowS + FIRST_LEAD_S) : { state, effects: [] };
    case 'stop':
      return onStop(state);
    case 'again':
      return onAgain(state, event.nowS);
    case 'not-begun':
      return onNotBegun(state);
    case 'nothing-heard':
      return onNothingHeard(state, event.nowS);
    case 'input-lost':
      return isUnderWay(state) ? finish(state, 'input-lost') : { state, effects: [] };
  }
};
