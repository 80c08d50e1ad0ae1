import { describe, expect, it } from 'vitest';
import { MAX_OFFSET_S, SETTLED_OFFSET_S } from '../align/align';
import { type AnalysedRepetition, analyseRepetition } from '../measure/analyse-repetition';
import { firstDrill } from '../plan/practice-config';
import { simulatePlaying } from '../player/simulate';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Passage } from '../schema/passage';
import type { Reason } from '../schema/reason';
import { STEADY } from '../schema/skill';
import { RepetitionSchema } from '../schema/take';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { beginStrategy } from '../strategies/strategies';
import type { SessionTarget } from '../strategies/strategy';
import { constantTempo, headlineBpm } from '../time/tempo-map';
import { describeReason } from '../words/describe-reason';
import { advance } from './loop';
import { IDLE, type LoopEffect, type LoopEvent, type LoopState } from './loop-state';
import { problemQuestions } from './problem-solving';

const drill = firstDrill(builtInPassage('five-steps') as Passage);
const READER = { noteNaming: 'british' } as const;
const RECORDING_START_S = 2;

const begin = (target: SessionTarget = { goalBpm: 120, startBpm: 60 }, options: Record<string, number> = {}, stood = {}) =>
  advance(IDLE, {
    type: 'begin',
    drills: [drill],
    target,
    strategy: beginStrategy('half-speed-climb', { options, state: null }),
    tempo: constantTempo(target.startBpm),
    nowS: 3,
    recordingStartS: RECORDING_START_S,
    offset: { nearS: 0.02, reachS: MAX_OFFSET_S },
    ...stood,
  });

/** What the engine would say of a repetition played with this unsteadiness. */
const played = (state: LoopState, spreadMs: number, seed = 4): AnalysedRepetition => {
  const plan = state.plan;
  if (!plan) throw new Error('nothing is planned');
  const onsets = simulatePlaying(plan.notes, { ...STEADY, spreadMs }, plan.tempo, seed);
  return analyseRepetition(onsets, {
    drill,
    plan,
    tolerance: TOLERANCE_PRESETS.secure,
    profile: profileOf('any'),
    latencyS: null,
    offset: state.offset,
    gap: false,
  });
};

const bpmOf = (state: LoopState) => headlineBpm(state.tempo);
const lastNoteS = (state: LoopState) => state.plan?.notes.at(-1)?.timeS ?? 0;
const kinds = (effects: readonly LoopEffect[]) => effects.map((effect) => effect.type);

/** Sends events one after the other. */
const send = (state: LoopState, ...events: LoopEvent[]) =>
  events.reduce(
    (step, event) => {
      const next = advance(step.state, event);
      return { state: next.state, effects: [...step.effects, ...next.effects] };
    },
    { state, effects: [] as LoopEffect[] },
  );

/** Plays one repetition and hears its verdict. */
const playOne = (state: LoopState, spreadMs: number) =>
  send(
    state,
    { type: 'clock', nowS: state.plan?.notes[0]?.timeS ?? 0 },
    { type: 'analysed', analysed: played(state, spreadMs), nowS: lastNoteS(state) + 0.08 },
  );

/** The goal is reached with its third clean repetition in a row. */
const playToGoal = () => {
  const first = playOne(begin({ goalBpm: 60, startBpm: 60 }).state, 3);
  const second = playOne(first.state, 3);
  expect(second.state.phase).toBe('counting');
  return playOne(second.state, 3);
};

/** The count-in is over and the repetition sounds. */
const sounding = (state: LoopState) => advance(state, { type: 'clock', nowS: state.plan?.notes[0]?.timeS ?? 0 }).state;
const analysedNow = (state: LoopState, spreadMs: number): LoopEvent => ({
  type: 'analysed',
  analysed: played(state, spreadMs),
  nowS: lastNoteS(state) + 0.08,
});

describe('the loop', () => {
  it('stores every time of a note, its end and its chord included, from the start of the recording', () => {
    const first = begin().state;
    const analysed = played(first, 3);
    const withEnds: AnalysedRepetition = {
      ...analysed,
      notes: analysed.notes.map((note) => {
        const timeS = note.onsetS ?? 0;
        return { ...note, offS: timeS + 0.1, members: [{ timeS: timeS + 0.01, levelDb: -20, offS: timeS + 0.12 }] };
      }),
      extras: [{ timeS: 7, levelDb: -20, offS: 7.5 }],
    };
    const { state } = send(
      first,
      { type: 'clock', nowS: first.plan?.notes[0]?.timeS ?? 0 },
      { type: 'analysed', analysed: withEnds, nowS: lastNoteS(first) + 0.08 },
    );
    const stored = state.repetitions[0];
    expect(stored?.extras[0]?.timeS).toBeCloseTo(7 - RECORDING_START_S, 9);
    expect(stored?.extras[0]?.offS).toBeCloseTo(7.5 - RECORDING_START_S, 9);
    for (const note of stored?.notes ?? []) {
      const onsetS = note.onsetS ?? 0;
      expect((note.offS ?? 0) - onsetS).toBeCloseTo(0.1, 9);
      expect((note.members?.[0]?.timeS ?? 0) - onsetS).toBeCloseTo(0.01, 9);
      expect((note.members?.[0]?.offS ?? 0) - onsetS).toBeCloseTo(0.12, 9);
    }
  });

  it('counts in, then plays', () => {
    const { state, effects } = begin();
    expect(state.phase).toBe('counting');
    expect(kinds(effects)).toEqual(['schedule']);
    expect(advance(state, { type: 'clock', nowS: 5 }).state.phase).toBe('counting');
    expect(advance(state, { type: 'clock', nowS: state.plan?.notes[0]?.timeS ?? 0 }).state.phase).toBe('playing');
  });

  it('raises the tempo after a clean repetition and begins the next by itself after one bar', () => {
    const first = begin().state;
    const { state, effects } = playOne(first, 3);
    expect(state.repetitions).toHaveLength(1);
    expect(bpmOf(state)).toBe(65);
    expect(kinds(effects)).toEqual(['announce', 'keep', 'schedule']);
    expect(state.plan?.countInStartS).toBe(first.plan?.endS);
    expect((state.plan?.downbeatS ?? 0) - (first.plan?.endS ?? 0)).toBeCloseTo((4 * 60) / 65, 9);
  });

  it('lets the player rest for as many bars as are wished', () => {
    const first = begin({ goalBpm: 120, startBpm: 60, restBars: 2 }).state;
    const { state } = playOne(first, 3);
    // Two bars of four beats at the tempo that was played; the count-in comes after them.
    expect((state.plan?.countInStartS ?? 0) - (first.plan?.endS ?? 0)).toBeCloseTo((2 * 4 * 60) / 60, 9);
  });

  it('has a sound of its own for what was not judged', () => {
    const first = begin().state;
    const heard = played(first, 3);
    const unheard: AnalysedRepetition = { ...heard, verdict: { ...heard.verdict, outcome: 'not-judged' } };
    const { effects } = send(first, { type: 'analysed', analysed: unheard, nowS: lastNoteS(first) + 0.08 });
    expect(effects[0]).toEqual({ type: 'announce', what: 'not-judged', far: 0 });
    expect(playOne(first, 3).effects[0]).toEqual({ type: 'announce', what: 'raise', far: expect.any(Number) });
  });

  it('goes on with a loose end that was broken off by a reload', () => {
    const ending = begin({ goalBpm: 120, startBpm: 60 }, {}, { finishCleans: 0 }).state;
    const last = [1, 2].reduce((step) => playOne(step.state, 3), playOne(ending, 3));
    expect(last.state.ended).toBe('relaxed');
    // Without it the same repetitions climb.
    expect([1, 2].reduce((step) => playOne(step.state, 3), playOne(begin().state, 3)).state.ended).toBeNull();
  });

  it('waits for a late verdict rather than click in the past', () => {
    const first = begin().state;
    const late = (first.plan?.endS ?? 0) + 1;
    const { state } = send(first, { type: 'analysed', analysed: played(first, 3), nowS: late });
    expect(state.plan?.countInStartS).toBeGreaterThan(late);
  });

  it('holds, then lowers, on uneven repetitions, and stops to think after four', () => {
    let state = begin().state;
    const tempos: number[] = [];
    for (let k = 0; k < 4; k += 1) {
      state = playOne(state, 45).state;
      tempos.push(bpmOf(state));
    }
    expect(tempos[0]).toBeLessThanOrEqual(60);
    expect(tempos[2]).toBeLessThan(60);
    expect(state.phase).toBe('problem');
    expect(problemQuestions(state.repetitions).length).toBeGreaterThanOrEqual(3);
    const resumed = advance(state, { type: 'resume', nowS: 100 });
    expect(resumed.state.phase).toBe('counting');
  });

  it('records nothing while it stands still, and stores what is played after by the shorter recording', () => {
    let state = begin().state;
    let last = advance(state, { type: 'clock', nowS: 0 });
    for (let k = 0; state.phase !== 'problem' && k < 6; k += 1) {
      last = playOne(state, 45);
      state = last.state;
    }
    const pause = last.effects.find(({ type }) => type === 'pause-recording') as { atS: number };
    expect(pause.atS).toBe(state.recordingPausedS);
    // A look at the clock, an answer, another tempo: it stands still through all of them.
    const later = advance(advance(state, { type: 'clock', nowS: pause.atS + 60 }).state, {
      type: 'ease',
      ease: 'working',
      nowS: pause.atS + 90,
    });
    expect(later.effects.map(({ type }) => type)).not.toContain('resume-recording');
    const resumed = advance(later.state, { type: 'resume', nowS: pause.atS + 360 });
    const resume = resumed.effects.find(({ type }) => type === 'resume-recording') as { atS: number };
    expect(resume.atS).toBeLessThan(resumed.state.plan?.clicks[0]?.timeS ?? 0);
    expect(resumed.state.recordingStartS).toBeCloseTo(RECORDING_START_S + resume.atS - pause.atS, 9);
    const repetition = playOne(resumed.state, 3).state.repetitions.at(-1);
    const leftOutS = resume.atS - pause.atS;
    expect(repetition?.downbeatS).toBeCloseTo((resumed.state.plan?.downbeatS ?? 0) - RECORDING_START_S - leftOutS, 9);
    // Gone on with before the sound had died away: nothing is left out.
    const atOnce = advance(state, { type: 'resume', nowS: pause.atS - 0.9 }).state;
    expect(atOnce.recordingStartS).toBe(RECORDING_START_S);
  });

  it('ends when the goal is clean, with a summary', () => {
    const { state, effects } = playToGoal();
    expect(state).toMatchObject({ phase: 'finished', ended: 'goal', summary: { bestCleanBpm: 60, closingBpm: 60 } });
    expect(kinds(effects)).toEqual(['announce', 'keep', 'silence', 'finish']);
  });

  it('stores repetitions by the clock of the recording', () => {
    const first = begin().state;
    const [repetition] = playOne(first, 3).state.repetitions;
    expect(RepetitionSchema.safeParse(repetition).error).toBeUndefined();
    expect(repetition?.downbeatS).toBeCloseTo((first.plan?.downbeatS ?? 0) - RECORDING_START_S, 9);
    expect(repetition?.notes[0]?.expectedS).toBeCloseTo((first.plan?.notes[0]?.timeS ?? 0) - RECORDING_START_S, 9);
  });

  it('keeps to a latency once it was seen', () => {
    const { state } = playOne(begin().state, 3);
    expect(state.offset.reachS).toBe(SETTLED_OFFSET_S);
    expect(Math.abs(state.offset.nearS)).toBeLessThan(0.02);
  });
});

describe('the player', () => {
  it('overrules a decision with one key, and it is logged', () => {
    const after = playOne(begin().state, 3).state;
    const { state, effects } = advance(after, { type: 'wish', changeBpm: -10, nowS: 30 });
    expect(bpmOf(state)).toBe(55);
    expect(state.plan?.tempo).toEqual(constantTempo(55));
    expect(state.repetitions[0]?.decision).toMatchObject({ overruled: true, tempo: constantTempo(55) });
    expect(kinds(effects)).toEqual(['silence', 'keep', 'schedule']);
  });

  it('may wish while playing: the wish rules the next decision', () => {
    const counting = begin().state;
    const wished = send(
      counting,
      { type: 'clock', nowS: counting.plan?.notes[0]?.timeS ?? 0 },
      { type: 'wish', changeBpm: 5, nowS: 8 },
      { type: 'wish', changeBpm: 5, nowS: 9 },
    ).state;
    expect(bpmOf(wished)).toBe(60);
    const { state } = send(wished, { type: 'analysed', analysed: played(wished, 40), nowS: 20 });
    expect(bpmOf(state)).toBe(70);
    expect(describeReason(state.repetitions[0]?.decision.why as Reason, READER)).toMatch(/Your choice: 70/);
  });

  it('is not driven on when tense', () => {
    const after = playOne(begin().state, 3).state;
    const { state } = advance(after, { type: 'ease', ease: 'tense', nowS: 30 });
    expect(bpmOf(state)).toBe(50);
    expect(state.repetitions[0]).toMatchObject({ ease: 'tense', decision: { action: 'lower' } });
  });

  it('is stopped by pain, at any moment', () => {
    const { state, effects } = advance(begin().state, { type: 'ease', ease: 'pain', nowS: 5 });
    expect(state).toMatchObject({ phase: 'finished', ended: 'pain' });
    expect(kinds(effects)).toContain('silence');
  });

  it('is not driven on when tense is answered while the next repetition already sounds', () => {
    // Raised to 65 and sounding when "tense" comes for the repetition at 60.
    const raised = sounding(playOne(begin().state, 3).state);
    expect(bpmOf(raised)).toBe(65);
    const answered = advance(raised, { type: 'ease', ease: 'tense', nowS: 30 });
    expect(kinds(answered.effects)).toEqual(['keep']);
    expect(answered.state.repetitions[0]).toMatchObject({
      ease: 'tense',
      decision: { action: 'lower', tempo: constantTempo(50) },
    });
    // What sounds goes on at 65; what follows it is what was answered, and no raise.
    expect(answered.state.plan?.tempo).toEqual(constantTempo(65));
    const after = send(answered.state, analysedNow(answered.state, 3)).state;
    expect(bpmOf(after)).toBe(50);
    const { action, why: reason } = after.repetitions[1]?.decision ?? {};
    expect(action).toBe('lower');
    expect(describeReason(reason as Reason, READER)).toContain('50');
    // There it stays until it is answered as easy; then the strategy goes on as ever.
    const stays = playOne(after, 3).state;
    expect(bpmOf(stays)).toBe(50);
    expect(bpmOf(advance(stays, { type: 'ease', ease: 'easy', nowS: 60 }).state)).toBe(54);
  });

  it('takes back a slip: tense and then easy is easy', () => {
    const counting = playOne(begin().state, 3).state;
    const slipped = send(counting, { type: 'ease', ease: 'tense', nowS: 30 }, { type: 'ease', ease: 'easy', nowS: 30.5 });
    expect(bpmOf(slipped.state)).toBe(65);
    expect(slipped.state.decisions).toEqual(counting.decisions);
    expect(slipped.state.repetitions[0]).toMatchObject({ ease: 'easy', decision: { action: 'raise' } });
    // The same while the next one sounds.
    const late = send(sounding(counting), { type: 'ease', ease: 'tense', nowS: 30 }, { type: 'ease', ease: 'easy', nowS: 31 });
    expect(late.state.pending).toBeNull();
    expect(bpmOf(send(late.state, analysedNow(late.state, 3)).state)).toBe(70);
  });

  it('may raise the tempo by hand, but not a repetition that felt tense', () => {
    const counting = playOne(begin().state, 3).state;
    const wished = send(counting, { type: 'wish', changeBpm: 20, nowS: 30 }).state;
    expect(bpmOf(wished)).toBe(85);
    expect(bpmOf(send(wished, { type: 'ease', ease: 'tense', nowS: 31 }).state)).toBe(50);
  });

  it('that hurts has the decision stopped, not only the loop', () => {
    const { state, effects } = advance(playOne(begin().state, 3).state, { type: 'ease', ease: 'pain', nowS: 30 });
    expect(state).toMatchObject({ phase: 'finished', ended: 'pain' });
    expect(state.repetitions[0]).toMatchObject({ ease: 'pain', decision: { action: 'stop' } });
    expect(kinds(effects)).toEqual(['keep', 'silence', 'finish']);
  });

  it('may answer when the goal was already reached: it is stored with its repetition', () => {
    const finished = playToGoal().state;
    const { state, effects } = advance(finished, { type: 'ease', ease: 'tense', nowS: 40 });
    expect(state.phase).toBe('finished');
    expect(state.repetitions.at(-1)).toMatchObject({ ease: 'tense', decision: { action: 'lower' } });
    expect(kinds(effects)).toEqual(['keep']);
  });

  it('is given tempos that can be stored, however low it begins', () => {
    const { state } = playOne(begin({ goalBpm: 60, startBpm: 12 }, { stepBpm: 10 }).state, 400);
    expect(RepetitionSchema.safeParse(state.repetitions[0]).error).toBeUndefined();
    expect(bpmOf(state)).toBeGreaterThanOrEqual(10);
    const tense = advance(playOne(begin({ goalBpm: 60, startBpm: 15 }).state, 3).state, {
      type: 'ease',
      ease: 'tense',
      nowS: 90,
    });
    expect(bpmOf(tense.state)).toBe(10);
  });

  it('loses nothing when stopping or when the input vanishes', () => {
    const after = playOne(begin().state, 3).state;
    for (const type of ['stop', 'input-lost'] as const) {
      const { state } = advance(after, { type, nowS: 40 });
      expect(state.phase).toBe('finished');
      expect(state.repetitions).toHaveLength(1);
      expect(state.summary?.nextStartBpm).toBeGreaterThan(0);
    }
  });

  /** What the engine would say of what sounds, ended at note 4. */
  const ended = (state: LoopState, byHand: boolean): AnalysedRepetition => {
    const plan = state.plan as NonNullable<LoopState['plan']>;
    const onsets = simulatePlaying(plan.notes.slice(0, 4), { ...STEADY, spreadMs: 3 }, plan.tempo, 4);
    const rest = { drill, plan, tolerance: TOLERANCE_PRESETS.secure, profile: profileOf('any'), latencyS: null, gap: false };
    return analyseRepetition(onsets, { ...rest, offset: state.offset, brokenOffAt: 4, ...(byHand ? { isByHand: true } : {}) });
  };

  it('keeps what sounds when it is stopped, without holding it against the player', () => {
    const second = sounding(playOne(begin().state, 3).state);
    const stopping = advance(second, { type: 'stop', nowS: 30 });
    expect(stopping.effects).toEqual([{ type: 'conclude', byHand: true }]);
    const { state, effects } = advance(stopping.state, { type: 'analysed', analysed: ended(second, true), nowS: 30.1 });
    expect(kinds(effects)).toEqual(['keep', 'silence', 'finish']);
    expect(state).toMatchObject({ phase: 'finished', ended: 'stopped' });
    expect(state.repetitions[1]).toMatchObject({ verdict: { reason: 'by-hand' }, decision: { action: 'hold' } });
    expect(() => RepetitionSchema.parse(state.repetitions[1])).not.toThrow();
    expect(state.decisions).toEqual(second.decisions);
    expect(state.summary).toEqual(advance(second, { type: 'input-lost', nowS: 30 }).state.summary);
    // Who stops twice does not wait; and what has hardly a note ends it too.
    expect(advance(stopping.state, { type: 'stop', nowS: 30.1 }).state.phase).toBe('finished');
    expect(advance(stopping.state, { type: 'nothing-heard', nowS: 30.1 }).state.repetitions).toHaveLength(1);
  });

  it('begins again at once: a count-in as it is, what sounds once it is kept as broken off', () => {
    const first = begin().state;
    const afresh = advance(first, { type: 'again', nowS: 4 });
    expect(kinds(afresh.effects)).toEqual(['silence', 'schedule']);
    expect(afresh.state.repetitions).toHaveLength(0);
    const asked = advance(sounding(first), { type: 'again', nowS: 8 });
    expect(asked.effects).toEqual([{ type: 'conclude', byHand: false }]);
    const broken = advance(asked.state, { type: 'analysed', analysed: ended(first, false), nowS: 8.1 });
    expect(broken.state.repetitions[0]).toMatchObject({
      verdict: { reason: 'broken-off' },
      decision: { why: { code: 'broke-off' } },
    });
    expect(broken.state).toMatchObject({ phase: 'counting', concluding: null });
    const none = advance(asked.state, { type: 'nothing-heard', nowS: 8.1 }).state;
    expect(none).toMatchObject({ phase: 'counting', concluding: null, repetitions: [] });
    expect(bpmOf(none)).toBe(bpmOf(first));
  });

  it('changes nothing with events out of season', () => {
    for (const type of ['stop', 'again', 'nothing-heard', 'resume', 'input-lost'] as const) {
      expect(advance(IDLE, { type, nowS: 1 })).toEqual({ state: IDLE, effects: [] });
    }
    const finished = advance(begin().state, { type: 'stop', nowS: 4 }).state;
    expect(send(finished, { type: 'wish', changeBpm: 5, nowS: 5 }).state).toEqual(finished);
  });
});
