import { describe, expect, it } from 'vitest';
import { anyLearner, LEARNERS, repetitionOf, tempoOf } from '../player/learner';
import { makeReason } from '../schema/reason';
import type { Repetition } from '../schema/take';
import { chance } from '../stats/random';
import { beginDecisions, decide } from '../strategies/decide';
import { beginStrategy } from '../strategies/strategies';
import { constantTempo, headlineBpm } from '../time/tempo-map';
import { describeReason } from '../words/describe-reason';
import { problemQuestions } from './problem-solving';
import { unsteadyAtAnyTempo } from './slower-helps';

const repetition = (bpm: number, spreadMs: number, part: object = {}) =>
  ({
    drill: 0,
    notes: [],
    tempo: constantTempo(bpm),
    measures: { spreadMs: { value: spreadMs } },
    verdict: { outcome: 'not-yet', reason: 'spread', why: makeReason('none') },
    decision: { action: 'hold' },
    ...part,
  }) as unknown as Repetition;

const CLEAN = { verdict: { outcome: 'clean' as const, reason: 'none' as const, why: makeReason('none') } };
const FLOOR = [120, 120, 90, 90, 70, 70, 60, 60].map((bpm, k) => repetition(bpm, 20 + (k % 3) - 1));

describe('unsteady at any tempo', () => {
  it('is who spreads as much slow as fast, with the tempos and the spread', () => {
    expect(unsteadyAtAnyTempo(FLOOR)).toEqual({ slowBpm: 60, fastBpm: 120, spreadMs: expect.closeTo(20, 0) });
  });

  it('is nobody whom slower helps, of any kind, however far above the edge they begin', () => {
    let pauses = 0;
    for (const learner of [...LEARNERS, ...Array.from({ length: 30 }, (_, k) => anyLearner(k + 1))]) {
      const startBpm = Math.round(1.5 * (tempoOf(learner, 0.5, undefined, 60) ?? 80));
      let decisions = beginDecisions(beginStrategy('half-speed-climb', null));
      let bpm = startBpm;
      const played: Repetition[] = [];
      for (let k = 0; k < 30; k += 1) {
        const one = repetitionOf(learner, bpm, 31 * k + 7);
        const { verdict, toleranceUsage } = one;
        // The spread as the verdict saw it, whose limit is a share of the interval.
        played.push(repetition(bpm, ((toleranceUsage ?? 1) * 800) / bpm, { verdict }));
        const next = decide(decisions, one, { goalBpm: 2 * startBpm, startBpm });
        decisions = next.decisions;
        if (next.decision.action === 'problem') pauses += 1;
        expect(unsteadyAtAnyTempo(played)).toBeNull();
        bpm = headlineBpm(next.decision.tempo);
      }
    }
    expect(pauses).toBeGreaterThan(5);
  });

  it('is not said of few repetitions, of one tempo, or where a good part was clean', () => {
    expect(unsteadyAtAnyTempo(FLOOR.slice(0, 5))).toBeNull();
    expect(unsteadyAtAnyTempo(FLOOR.map(() => repetition(80, 20)))).toBeNull();
    expect(unsteadyAtAnyTempo(FLOOR.map((one, k) => ({ ...one, ...(k < 3 ? CLEAN : {}) })))).toBeNull();
    expect(unsteadyAtAnyTempo([])).toBeNull();
  });

  it('is not said where spreads differ so much that it may be otherwise', () => {
    const { normal } = chance(5);
    const told = Array.from({ length: 200 }, () =>
      unsteadyAtAnyTempo(
        FLOOR.map((one) => repetition(headlineBpm(one.tempo), 0.2 * headlineBpm(one.tempo) * Math.exp(0.3 * normal()))),
      ),
    ).filter(Boolean);
    expect(told.length).toBeLessThanOrEqual(20);
  });

  it('is told at the first pause at which it is so, instead of advice to go slower, and then no more', () => {
    const paused = FLOOR.map((one, k) => (k === 7 ? { ...one, decision: { action: 'problem' } } : one)) as Repetition[];
    expect(problemQuestions(paused).map((one) => describeReason(one, { noteNaming: 'british' }))[0]).toBe(
      'The spread stays about 20 ms between 60 and 120: going slower does not make it steadier. What may help: headphones and measuring the delay again, other music, or a wider tolerance.',
    );
    const later = [...paused, repetition(56, 21), repetition(56, 20)];
    expect(problemQuestions(later).map(({ code }) => code)).toEqual(['ask-smaller', 'ask-fingering', 'ask-movement']);
  });
});
