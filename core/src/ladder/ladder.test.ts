import { describe, expect, it } from 'vitest';
import type { Outcome, Verdict } from '../schema/verdict';
import { decide } from './decide';
import { FAILURES_BEFORE_PROBLEM } from './guards';
import { HALF_SPEED_CLIMB } from './half-speed-climb';
import type { Played } from './school';
import { SCHOOLS, schoolOf } from './schools';

const course = { goalBpm: 120, startBpm: 60, stepBpm: 5 };
const verdict = (outcome: Outcome): Verdict => ({ outcome, reason: 'none', sentence: '' });
const play = (tempoBpm: number, outcome: Outcome, ease: Played['ease'] = null): Played => ({
  tempoBpm,
  verdict: verdict(outcome),
  ease,
});

/** Plays a list of outcomes through the school, each at the tempo decided before; returns the tempos. */
const tempos = (outcomes: readonly Outcome[]): number[] => {
  let state = HALF_SPEED_CLIMB.begin(course);
  let tempo = course.startBpm;
  return outcomes.map((outcome) => {
    const next = decide(HALF_SPEED_CLIMB, state, play(tempo, outcome), course);
    state = next.state;
    tempo = next.decision.nextTempoBpm;
    return tempo;
  });
};

describe('the half-speed climb', () => {
  it('goes one step up after each clean repetition', () => {
    expect(tempos(['clean', 'clean', 'clean'])).toEqual([65, 70, 75]);
  });

  it('holds on close, and once on not yet', () => {
    expect(tempos(['close', 'not-yet', 'clean'])).toEqual([60, 60, 65]);
  });

  it('goes just below after the second failure, then nudges', () => {
    expect(tempos(['clean', 'not-yet', 'not-yet', 'clean', 'clean'])).toEqual([65, 65, 62, 64, 66]);
  });

  it('goes below at once when it comes apart', () => {
    expect(tempos(['clean', 'clean', 'broken'])).toEqual([65, 70, 67]);
  });

  it('is done when the goal is clean, and never passes it', () => {
    const near = HALF_SPEED_CLIMB.decide(HALF_SPEED_CLIMB.begin(course), play(118, 'clean'), course);
    expect(near.decision).toMatchObject({ action: 'raise', nextTempoBpm: 120 });
    const there = HALF_SPEED_CLIMB.decide(near.state, play(120, 'clean'), course);
    expect(there.decision.action).toBe('goal');
  });

  it('says why, every time', () => {
    for (const outcome of ['clean', 'close', 'not-yet', 'broken'] as const) {
      const { decision } = HALF_SPEED_CLIMB.decide(HALF_SPEED_CLIMB.begin(course), play(80, outcome), course);
      expect(decision.reason.length).toBeGreaterThan(10);
    }
  });
});

describe.each(SCHOOLS.map((school) => [school.name, school] as const))('the guards over %s', (_name, school) => {
  const begin = () => school.begin(course);

  it('never raise a tense repetition', () => {
    const { decision } = decide(school, begin(), play(80, 'clean', 'tense'), course);
    expect(decision).toMatchObject({ action: 'lower', nextTempoBpm: 70 });
  });

  it('stop on pain and name who can help', () => {
    const { decision } = decide(school, begin(), play(80, 'clean', 'pain'), course);
    expect(decision.action).toBe('stop');
    expect(decision.reason).toMatch(/doctor or physiotherapist/);
  });

  it('change nothing after an unjudged repetition', () => {
    const state = begin();
    const next = decide(school, state, play(80, 'not-judged'), course);
    expect(next.decision).toMatchObject({ action: 'hold', nextTempoBpm: 80 });
    expect(next.state).toEqual(state);
  });

  it('stop the loop to think after four failures in a row', () => {
    let state = begin();
    let action = '';
    for (let k = 0; k < FAILURES_BEFORE_PROBLEM; k += 1) {
      const next = decide(school, state, play(60, 'not-yet'), course);
      state = next.state;
      action = next.decision.action;
    }
    expect(action).toBe('problem');
    expect(state.failedInARow).toBe(0);
  });
});

it('falls back to the half-speed climb for a school it does not know', () => {
  expect(schoolOf('of-another-version').id).toBe('half-speed-climb');
});
