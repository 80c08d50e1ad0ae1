import { describe, expect, it } from 'vitest';
import { MAX_OFFSET_S, SETTLED_OFFSET_S } from '../align/align';
import { type AnalysedRepetition, analyseRepetition } from '../measure/analyse-repetition';
import { STEADY, simulatePlaying } from '../player/simulate';
import { readyExercise } from '../rhythm/ready-exercises';
import type { Exercise } from '../schema/exercise';
import { RepetitionSchema } from '../schema/take';
import { profileOf } from '../signal/profiles';
import { TOLERANCE_PRESETS } from '../verdict/tolerance';
import { advance, IDLE, type LoopEffect, type LoopEvent, type LoopState } from './loop';
import { problemQuestions } from './problem-solving';

const exercise = readyExercise('five-steps') as Exercise;
const RECORDING_START_S = 2;

const begin = (course = { goalBpm: 120, startBpm: 60, stepBpm: 5 }) =>
  advance(IDLE, {
    type: 'begin',
    exercise,
    course,
    schoolId: 'half-speed-climb',
    nowS: 3,
    recordingStartS: RECORDING_START_S,
    offset: { nearS: 0.02, reachS: MAX_OFFSET_S },
  });

/** What the engine would say of a repetition played with this wobble. */
const played = (state: LoopState, spreadMs: number, seed = 4): AnalysedRepetition => {
  const plan = state.plan;
  if (!plan) throw new Error('nothing is planned');
  const onsets = simulatePlaying(plan.notes, { ...STEADY, spreadMs }, plan.tempoBpm, seed);
  return analyseRepetition(onsets, {
    exercise,
    plan,
    tolerance: TOLERANCE_PRESETS.secure,
    profile: profileOf('any'),
    latencyS: null,
    offset: state.offset,
    gap: false,
  });
};

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
    expect(state.tempoBpm).toBe(65);
    expect(kinds(effects)).toEqual(['announce', 'keep', 'schedule']);
    expect(state.plan?.countInStartS).toBe(first.plan?.endS);
    expect((state.plan?.downbeatS ?? 0) - (first.plan?.endS ?? 0)).toBeCloseTo((4 * 60) / 65, 9);
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
      tempos.push(state.tempoBpm);
    }
    expect(tempos[0]).toBeLessThanOrEqual(60);
    expect(tempos[2]).toBeLessThan(60);
    expect(state.phase).toBe('problem');
    expect(problemQuestions(state.repetitions)[0]).toMatch(/step from note \d+/);
    const resumed = advance(state, { type: 'resume', nowS: 100 });
    expect(resumed.state.phase).toBe('counting');
  });

  it('ends when the goal is clean, with a closing', () => {
    const { state, effects } = playOne(begin({ goalBpm: 60, startBpm: 60, stepBpm: 5 }).state, 3);
    expect(state).toMatchObject({ phase: 'finished', ended: 'goal', closing: { bestCleanBpm: 60, closingBpm: 60 } });
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
    expect(state.tempoBpm).toBe(55);
    expect(state.plan?.tempoBpm).toBe(55);
    expect(state.repetitions[0]?.decision).toMatchObject({ overruled: true, nextTempoBpm: 55 });
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
    expect(wished.tempoBpm).toBe(60);
    const { state } = send(wished, { type: 'analysed', analysed: played(wished, 40), nowS: 20 });
    expect(state.tempoBpm).toBe(70);
    expect(state.repetitions[0]?.decision.reason).toMatch(/Your choice/);
  });

  it('is not driven on when tense', () => {
    const after = playOne(begin().state, 3).state;
    const { state } = advance(after, { type: 'ease', ease: 'tense', nowS: 30 });
    expect(state.tempoBpm).toBe(50);
    expect(state.repetitions[0]).toMatchObject({ ease: 'tense', decision: { action: 'lower' } });
  });

  it('is stopped by pain, at any moment', () => {
    const { state, effects } = advance(begin().state, { type: 'ease', ease: 'pain', nowS: 5 });
    expect(state).toMatchObject({ phase: 'finished', ended: 'pain' });
    expect(kinds(effects)).toContain('silence');
  });

  it('loses nothing when stopping or when the input vanishes', () => {
    const after = playOne(begin().state, 3).state;
    for (const type of ['stop', 'input-lost'] as const) {
      const { state } = advance(after, { type, nowS: 40 });
      expect(state.phase).toBe('finished');
      expect(state.repetitions).toHaveLength(1);
      expect(state.closing?.nextStartBpm).toBeGreaterThan(0);
    }
  });

  it('changes nothing with events out of season', () => {
    for (const type of ['stop', 'resume', 'input-lost'] as const) {
      expect(advance(IDLE, { type, nowS: 1 })).toEqual({ state: IDLE, effects: [] });
    }
    const finished = advance(begin().state, { type: 'stop', nowS: 4 }).state;
    expect(send(finished, { type: 'wish', changeBpm: 5, nowS: 5 }).state).toEqual(finished);
  });
});
