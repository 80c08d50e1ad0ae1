import { type OffsetGuess, SETTLED_OFFSET_S, UNKNOWN_OFFSET } from '../align/align';
import { decide } from '../ladder/decide';
import { guardRuling } from '../ladder/guards';
import type { Course, Memory } from '../ladder/school';
import { schoolOf } from '../ladder/schools';
import { type AnalysedRepetition, storedFigures } from '../measure/analyse-repetition';
import { shiftNote, shiftOnset } from '../measure/shift-times';
import { closeTake } from '../plan/close-take';
import { type Exercise, TEMPO_RANGE_BPM } from '../schema/exercise';
import type { Closing, Decision, Ease, Repetition, TempoAction } from '../schema/take';
import { planRepetition, type RepetitionPlan } from '../time/repetition-plan';

/**
 * The practice loop as a pure state machine: {@link advance} takes a state and an event and gives the next state and
 * the effects to carry out. All times are seconds on the audio clock.
 */
export type LoopPhase = 'idle' | 'counting' | 'playing' | 'problem' | 'finished';
export type LoopEnd = 'goal' | 'stopped' | 'pain' | 'input-lost';

export interface LoopState {
  phase: LoopPhase;
  exercise: Exercise | null;
  course: Course;
  schoolId: string;
  memory: Memory;
  tempoBpm: number;
  plan: RepetitionPlan | null;
  /** When the recording began: stored times count from here. */
  recordingStartS: number;
  repetitions: Repetition[];
  /** A tempo that the player asked for while playing; it rules the next decision. */
  wishedBpm: number | null;
  /** Where the next pairing looks for the latency. */
  offset: OffsetGuess;
  ended: LoopEnd | null;
  closing: Closing | null;
}

/** What the player does, by key, pedal or mishap. */
export type PlayerEvent =
  | { type: 'ease'; ease: Ease }
  | { type: 'wish'; changeBpm: number }
  | { type: 'resume' }
  | { type: 'stop' }
  | { type: 'input-lost' };

export type LoopEvent =
  | {
      type: 'begin';
      exercise: Exercise;
      course: Course;
      schoolId: string;
      nowS: number;
      recordingStartS: number;
      /** Where the first pairing looks for the latency. */
      offset: OffsetGuess;
    }
  | { type: 'clock'; nowS: number }
  | { type: 'analysed'; analysed: AnalysedRepetition; nowS: number }
  | (PlayerEvent & { nowS: number });

export type LoopEffect =
  | { type: 'schedule'; plan: RepetitionPlan; repetition: number; offset: OffsetGuess }
  | { type: 'silence' }
  | { type: 'announce'; action: TempoAction }
  | { type: 'keep' }
  | { type: 'finish' };

interface Step {
  state: LoopState;
  effects: LoopEffect[];
}

/** Time from asking for the first click to hearing it. */
const FIRST_LEAD_S = 0.7;
/** The least time from a decision to the next click. */
const LEAD_S = 0.2;
const COUNT_IN_BARS = 1;

export const IDLE: LoopState = {
  phase: 'idle',
  exercise: null,
  course: { goalBpm: 120, startBpm: 60, stepBpm: 5 },
  schoolId: 'half-speed-climb',
  memory: { failedInARow: 0 },
  tempoBpm: 60,
  plan: null,
  recordingStartS: 0,
  repetitions: [],
  wishedBpm: null,
  offset: UNKNOWN_OFFSET,
  ended: null,
  closing: null,
};

const clampTempo = (bpm: number): number => Math.min(TEMPO_RANGE_BPM.max, Math.max(TEMPO_RANGE_BPM.min, bpm));

/** Plans the next repetition from `startS` on and asks for its clicks. */
const schedule = (state: LoopState, startS: number): Step => {
  const plan = planRepetition({
    exercise: state.exercise as Exercise,
    tempoBpm: state.tempoBpm,
    startS,
    countInBars: COUNT_IN_BARS,
  });
  return {
    state: { ...state, phase: 'counting', plan },
    effects: [{ type: 'schedule', plan, repetition: state.repetitions.length, offset: state.offset }],
  };
};

const finish = (state: LoopState, ended: LoopEnd): Step => ({
  state: { ...state, phase: 'finished', ended, plan: null, closing: closeTake(state.repetitions, state.course.goalBpm) },
  effects: [{ type: 'silence' }, { type: 'finish' }],
});

/** The repetition as it is stored: times count from the start of the recording. */
const toStored = (state: LoopState, plan: RepetitionPlan, analysed: AnalysedRepetition, decision: Decision): Repetition => {
  const zero = state.recordingStartS;
  return {
    index: state.repetitions.length,
    tempoBpm: plan.tempoBpm,
    downbeatS: plan.downbeatS - zero,
    ...storedFigures(analysed),
    notes: analysed.notes.map((note) => shiftNote(note, -zero)),
    extras: analysed.extras.map((onset) => shiftOnset(onset, -zero)),
    ease: null,
    decision,
  };
};

const overruled = (decision: Decision, wishedBpm: number): Decision => ({
  action: wishedBpm > decision.nextTempoBpm ? 'raise' : wishedBpm < decision.nextTempoBpm ? 'lower' : 'hold',
  nextTempoBpm: wishedBpm,
  reason: `Your choice: ${wishedBpm}. (The school said ${decision.nextTempoBpm}.)`,
  overruled: true,
});

const onAnalysed = (state: LoopState, analysed: AnalysedRepetition, nowS: number): Step => {
  if (!state.plan || (state.phase !== 'playing' && state.phase !== 'counting')) return { state, effects: [] };
  const school = schoolOf(state.schoolId);
  const played = { tempoBpm: state.plan.tempoBpm, verdict: analysed.verdict, ease: null };
  const told = decide(school, state.memory, played, state.course);
  const decision = state.wishedBpm === null ? told.decision : overruled(told.decision, state.wishedBpm);
  // A latency is believed once a repetition held together.
  const isSettled =
    analysed.verdict.outcome !== 'not-judged' && analysed.verdict.outcome !== 'broken' && !analysed.shiftDoubtful;
  const kept: LoopState = {
    ...state,
    memory: told.state,
    repetitions: [...state.repetitions, toStored(state, state.plan, analysed, decision)],
    tempoBpm: decision.nextTempoBpm,
    wishedBpm: null,
    offset: isSettled ? { nearS: analysed.offsetS, reachS: SETTLED_OFFSET_S } : state.offset,
  };
  const said: LoopEffect[] = [{ type: 'announce', action: decision.action }, { type: 'keep' }];
  if (decision.action === 'goal') {
    const done = finish(kept, 'goal');
    return { state: done.state, effects: [...said, ...done.effects] };
  }
  if (decision.action === 'problem') {
    return { state: { ...kept, phase: 'problem', plan: null }, effects: [...said, { type: 'silence' }] };
  }
  const next = schedule(kept, Math.max(state.plan.endS, nowS + LEAD_S));
  return { state: next.state, effects: [...said, ...next.effects] };
};

/** Replaces the last repetition's decision, and the count-in that has begun on it. */
const redecide = (state: LoopState, change: Partial<Repetition>, nowS: number): Step => {
  const last = state.repetitions.at(-1) as Repetition;
  const repetitions = [...state.repetitions.slice(0, -1), { ...last, ...change }];
  const nextBpm = change.decision?.nextTempoBpm ?? state.tempoBpm;
  const kept = { ...state, repetitions, tempoBpm: nextBpm };
  if (state.phase !== 'counting' || nextBpm === state.tempoBpm) return { state: kept, effects: [{ type: 'keep' }] };
  const next = schedule(kept, Math.max(nowS + LEAD_S, state.plan?.countInStartS ?? 0));
  return { state: next.state, effects: [{ type: 'silence' }, { type: 'keep' }, ...next.effects] };
};

const onEase = (state: LoopState, ease: Ease, nowS: number): Step => {
  const last = state.repetitions.at(-1);
  if (ease === 'pain') {
    const repetitions = last ? [...state.repetitions.slice(0, -1), { ...last, ease }] : [];
    return finish({ ...state, repetitions }, 'pain');
  }
  if (!last) return { state, effects: [] };
  const ruling = guardRuling({ tempoBpm: last.tempoBpm, verdict: last.verdict, ease });
  if (ease !== 'tense' || !ruling) return redecide(state, { ease }, nowS);
  return redecide(state, { ease, decision: { ...ruling, overruled: false } }, nowS);
};

const onWish = (state: LoopState, changeBpm: number, nowS: number): Step => {
  if (state.phase === 'playing') {
    return { state: { ...state, wishedBpm: clampTempo((state.wishedBpm ?? state.tempoBpm) + changeBpm) }, effects: [] };
  }
  if (state.phase !== 'counting') return { state, effects: [] };
  const wishedBpm = clampTempo(state.tempoBpm + changeBpm);
  const last = state.repetitions.at(-1);
  if (last) return redecide(state, { decision: overruled(last.decision, wishedBpm) }, nowS);
  const next = schedule({ ...state, tempoBpm: wishedBpm }, nowS + LEAD_S);
  return { state: next.state, effects: [{ type: 'silence' }, ...next.effects] };
};

/** The next state of the loop and what is to be done. Events that make no sense in a phase change nothing. */
export const advance = (state: LoopState, event: LoopEvent): Step => {
  switch (event.type) {
    case 'begin': {
      const { exercise, course, schoolId, recordingStartS, offset } = event;
      const begun: LoopState = {
        ...IDLE,
        exercise,
        course,
        schoolId,
        recordingStartS,
        offset,
        memory: schoolOf(schoolId).begin(course),
        tempoBpm: course.startBpm,
      };
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
    case 'resume':
      return state.phase === 'problem' ? schedule(state, event.nowS + FIRST_LEAD_S) : { state, effects: [] };
    case 'stop':
      return state.phase === 'idle' || state.phase === 'finished' ? { state, effects: [] } : finish(state, 'stopped');
    case 'input-lost':
      return state.phase === 'idle' || state.phase === 'finished' ? { state, effects: [] } : finish(state, 'input-lost');
  }
};
