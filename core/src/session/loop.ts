import { MAX_OFFSET_S, type OffsetGuess, SETTLED_OFFSET_S, UNKNOWN_OFFSET } from '../align/align';
import { beginLadder, decide, type Ladder, type Owed } from '../ladder/decide';
import type { Aim, Played } from '../ladder/school';
import { beginSchool, type SchoolRun } from '../ladder/schools';
import { type AnalysedRepetition, storedFigures } from '../measure/analyse-repetition';
import { shiftNote, shiftOnset } from '../measure/shift-times';
import { closeTake } from '../plan/close-take';
import type { Closing } from '../schema/closing';
import type { Drill } from '../schema/grid';
import type { Decision, Ease, Repetition, TempoAction } from '../schema/take';
import type { TempoMapDocument } from '../schema/tempo';
import { why } from '../schema/why';
import { clampBpm } from '../time/clamp-tempo';
import { planRepetition, type RepetitionPlan } from '../time/repetition-plan';
import { constantTempo, headlineBpm } from '../time/tempo-map';

/**
 * The practice loop as a pure state machine: {@link advance} takes a state and an event and gives the next state and
 * the effects to carry out. All times are seconds on the audio clock.
 */
export type LoopPhase = 'idle' | 'counting' | 'playing' | 'problem' | 'finished';
export type LoopEnd = 'goal' | 'stopped' | 'pain' | 'input-lost';

/** The last decision with all it was taken from, so that it can be taken again when an answer about ease comes late. */
interface Decided {
  before: Ladder;
  played: Played;
  owed: Owed | null;
  /** The player's own tempo, where it overruled the school. */
  wishedBpm: number | null;
}

export interface LoopState {
  phase: LoopPhase;
  drill: Drill | null;
  aim: Aim;
  ladder: Ladder;
  /** The tempo of the repetition that is planned or sounding. */
  tempo: TempoMapDocument;
  plan: RepetitionPlan | null;
  /** When the recording began: stored times count from here. */
  recordingStartS: number;
  repetitions: Repetition[];
  decided: Decided | null;
  /** A decision that the sounding repetition came too early for. */
  owed: Owed | null;
  /** A tempo that the player asked for while playing; it rules the next decision. */
  wishedBpm: number | null;
  /** Where the next pairing looks for the latency. */
  offset: OffsetGuess;
  /** An offset far from where it was looked for, which one repetition alone does not settle; null where none was met. */
  strangeOffsetS: number | null;
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
      drill: Drill;
      aim: Aim;
      school: SchoolRun;
      tempo: TempoMapDocument;
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

export const IDLE: LoopState = {
  phase: 'idle',
  drill: null,
  aim: { goalBpm: 120, startBpm: 60 },
  ladder: beginLadder(beginSchool('half-speed-climb', null)),
  tempo: constantTempo(60),
  plan: null,
  recordingStartS: 0,
  repetitions: [],
  decided: null,
  owed: null,
  wishedBpm: null,
  offset: UNKNOWN_OFFSET,
  strangeOffsetS: null,
  ended: null,
  closing: null,
};

const isUnderWay = ({ phase }: LoopState) => phase !== 'idle' && phase !== 'finished';

const sameTempo = (a: TempoMapDocument, b: TempoMapDocument) => JSON.stringify(a) === JSON.stringify(b);

/**
 * Where the latency is looked for after a repetition that held together. One that lies far from the guess may be an entry that came
 * late, or a latency that jumped: it is believed once a second repetition says the same.
 */
const offsetAfter = (
  { offset, strangeOffsetS }: LoopState,
  { verdict, offsetS }: AnalysedRepetition,
): Pick<LoopState, 'offset' | 'strangeOffsetS'> => {
  if (verdict.outcome === 'not-judged' || verdict.outcome === 'broken') return { offset, strangeOffsetS };
  const isNear = (otherS: number | null) => otherS !== null && Math.abs(offsetS - otherS) <= SETTLED_OFFSET_S;
  return isNear(offset.nearS) || isNear(strangeOffsetS)
    ? { offset: { nearS: offsetS, reachS: SETTLED_OFFSET_S }, strangeOffsetS: null }
    : { offset, strangeOffsetS: offsetS };
};

/** A latency may jump, and a player come in wrong, by so much at a tempo, in seconds. */
const farS = (tempo: TempoMapDocument): number => Math.max(MAX_OFFSET_S, 60 / headlineBpm(tempo)) + SETTLED_OFFSET_S;

/** Plans the next repetition from `startS` on and asks for its clicks. */
const schedule = (state: LoopState, startS: number): Step => {
  const plan = planRepetition({ drill: state.drill as Drill, tempo: state.tempo, startS });
  return {
    state: { ...state, phase: 'counting', plan },
    effects: [
      {
        type: 'schedule',
        plan,
        repetition: state.repetitions.length,
        offset: { ...state.offset, farS: farS(state.tempo) },
      },
    ],
  };
};

const finish = (state: LoopState, ended: LoopEnd): Step => ({
  state: {
    ...state,
    phase: 'finished',
    ended,
    plan: null,
    closing: closeTake(state.repetitions, state.aim.goalBpm, state.aim.startBpm),
  },
  effects: [{ type: 'silence' }, { type: 'finish' }],
});

/** The repetition as it is stored: times count from the start of the recording. */
const toStored = (state: LoopState, plan: RepetitionPlan, analysed: AnalysedRepetition, decision: Decision): Repetition => {
  const zero = state.recordingStartS;
  return {
    index: state.repetitions.length,
    drill: 0,
    tempo: plan.tempo,
    downbeatS: plan.downbeatS - zero,
    ...storedFigures(analysed),
    notes: analysed.notes.map((note) => shiftNote(note, -zero)),
    extras: analysed.extras.map((onset) => shiftOnset(onset, -zero)),
    ease: null,
    decision,
  };
};

const overruled = (decision: Decision, fromBpm: number, wishedBpm: number): Decision => ({
  action: wishedBpm > fromBpm ? 'raise' : wishedBpm < fromBpm ? 'lower' : 'hold',
  tempo: constantTempo(wishedBpm),
  why: why('your-choice', { bpm: wishedBpm, school: headlineBpm(decision.tempo) }),
  overruled: true,
});

/** Takes a decision from what it rests on; the player's own tempo stands, but a tense repetition is never raised by it. */
const takeDecision = (decided: Decided, aim: Aim): { ladder: Ladder; decision: Decision } => {
  const { before, played, owed, wishedBpm } = decided;
  const told = decide(before, played, aim, owed);
  const wishStands = wishedBpm !== null && (played.ease !== 'tense' || wishedBpm <= headlineBpm(told.decision.tempo));
  return wishStands ? { ...told, decision: overruled(told.decision, played.bpm, wishedBpm) } : told;
};

const onAnalysed = (state: LoopState, analysed: AnalysedRepetition, nowS: number): Step => {
  if (!state.plan || (state.phase !== 'playing' && state.phase !== 'counting')) return { state, effects: [] };
  const { plan, wishedBpm, owed } = state;
  const played: Played = {
    tempo: plan.tempo,
    bpm: headlineBpm(plan.tempo),
    verdict: analysed.verdict,
    demand: analysed.measures.demand ?? null,
    ease: 'working',
  };
  const decided: Decided = { before: state.ladder, played, owed, wishedBpm };
  const { ladder, decision } = takeDecision(decided, state.aim);
  const kept: LoopState = {
    ...state,
    ladder,
    decided,
    repetitions: [...state.repetitions, toStored(state, plan, analysed, decision)],
    tempo: decision.tempo,
    wishedBpm: null,
    owed: null,
    ...offsetAfter(state, analysed),
  };
  const said: LoopEffect[] = [{ type: 'announce', action: decision.action }, { type: 'keep' }];
  const next = follow(kept, decision, Math.max(plan.endS, nowS + LEAD_S));
  return { state: next.state, effects: [...said, ...next.effects] };
};

/** What a decision leads to: the end, a pause for thought, or the next repetition from `startS` on. */
const follow = (state: LoopState, decision: Decision, startS: number): Step => {
  if (decision.action === 'goal') return finish(state, 'goal');
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
  const { ladder, decision } = takeDecision(decided, state.aim);
  const repetitions = [...state.repetitions.slice(0, -1), { ...last, ease: ease ?? last.ease, decision }];
  const kept: LoopState = { ...state, repetitions, ladder, decided };
  const stored: LoopEffect[] = [{ type: 'keep' }];
  switch (state.phase) {
    case 'playing': {
      const sounds = state.tempo;
      const goesOn = sameTempo(sounds, decision.tempo) && decision.action !== 'problem' && decision.action !== 'goal';
      return { state: { ...kept, owed: goesOn ? null : { tempo: decision.tempo } }, effects: stored };
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
      return { state: { ...kept, closing: closeTake(repetitions, state.aim.goalBpm, state.aim.startBpm) }, effects: stored };
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
    const from = state.wishedBpm ?? headlineBpm((state.owed ?? state).tempo);
    return { state: { ...state, wishedBpm: clampBpm(from + changeBpm) }, effects: [] };
  }
  if (state.phase !== 'counting') return { state, effects: [] };
  const wishedBpm = clampBpm(headlineBpm(state.tempo) + changeBpm);
  if (state.decided && state.repetitions.length) return redecide(state, { ...state.decided, wishedBpm }, null, nowS);
  const next = schedule({ ...state, tempo: constantTempo(wishedBpm) }, nowS + LEAD_S);
  return { state: next.state, effects: [{ type: 'silence' }, ...next.effects] };
};

/** The next state of the loop and what is to be done. Events that make no sense in a phase change nothing. */
export const advance = (state: LoopState, event: LoopEvent): Step => {
  switch (event.type) {
    case 'begin': {
      const { drill, aim, school, tempo, recordingStartS, offset } = event;
      const ladder = beginLadder(school);
      return schedule({ ...IDLE, drill, aim, ladder, tempo, recordingStartS, offset }, event.nowS + FIRST_LEAD_S);
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
      return isUnderWay(state) ? finish(state, 'stopped') : { state, effects: [] };
    case 'input-lost':
      return isUnderWay(state) ? finish(state, 'input-lost') : { state, effects: [] };
  }
};
