import { describe, expect, it } from 'vitest';
import { anyLearner, FRESH, LEARNERS, repetitionOf, sweepOf, tempoOf } from '../player/learner';
import { chance } from '../stats/random';
import { constantTempo } from '../time/tempo-map';
import { breakTempo } from './break-tempo';
import { sweptNotes } from './swept-notes';
import { tempoCurve } from './tempo-curve';
import type { Tried } from './unsteadiness-fit';

const still = { gain: 0, tires: 0, tenseAbove: 9, forgets: 0 };
const steady = LEARNERS[0] as (typeof LEARNERS)[number];

/** Repetitions of a learner at tempos spread over a range. */
const triesOf = (learner: typeof steady, from: number, to: number, count: number): Tried[] =>
  Array.from({ length: count }, (_, k) => {
    const bpm = Math.round(from + ((to - from) * ((k * 7) % count)) / count);
    const { verdict, toleranceUsage } = repetitionOf(learner, bpm, 40 + k);
    return {
      bpm,
      isClean: verdict.outcome === 'clean',
      toleranceUsage: verdict.outcome === 'broken' ? null : toleranceUsage,
      notes: 17,
      weight: 1,
    };
  });

describe('the tempo curve', () => {
  it.each(LEARNERS.filter(({ gain }) => gain === 0).map((learner) => [learner.name, learner] as const))(
    'finds the easy and edge tempos of a learner who %s within 4 %% or says how far off it may be',
    (_, learner) => {
      const edge = tempoOf(learner, 0.5) as number;
      const easy = tempoOf(learner, 0.9) as number;
      const curve = tempoCurve(triesOf(learner, 0.8 * edge, 1.1 * edge, 40));
      for (const [truth, range] of [
        [edge, curve?.edge()],
        [easy, curve?.easy()],
      ] as const) {
        expect(range).toBeTruthy();
        const isNear = Math.abs((range?.bpm ?? 0) / truth - 1) < 0.04;
        expect(isNear || ((range?.low ?? 0) <= truth && truth <= (range?.high ?? 0))).toBe(true);
        expect((range?.high ?? 0) / (range?.low ?? 1)).toBeLessThan(1.3);
      }
    },
  );

  it('falls with the tempo, between 1 and 0', () => {
    const curve = tempoCurve(triesOf(steady, 80, 125, 30));
    const chances = [60, 80, 100, 120, 140].map((bpm) => curve?.cleanChance(bpm) ?? Number.NaN);
    expect(chances.every((one, k) => one >= 0 && one <= 1 && (k === 0 || one <= (chances[k - 1] as number) + 1e-9))).toBe(true);
    expect(chances[0]).toBeGreaterThan(0.9);
    expect(chances.at(-1)).toBeLessThan(0.1);
  });

  it('says nothing where too little was played, and no edge where nothing ever got hard', () => {
    expect(tempoCurve(triesOf(steady, 80, 100, 5))).toBeNull();
    expect(tempoCurve(triesOf(steady, 40, 60, 30))?.edge()).toBeNull();
    expect(tempoCurve(triesOf(steady, 80, 120, 30).map((one) => ({ ...one, weight: 0.001 })))).toBeNull();
  });

  it('is not moved by one slip at an easy tempo', () => {
    const tried = triesOf(steady, 75, 115, 40);
    const slipped: Tried[] = [...tried, { bpm: 78, isClean: false, toleranceUsage: 2.4, notes: 17, weight: 1 }];
    const [before, after] = [tempoCurve(tried)?.edge()?.bpm ?? 0, tempoCurve(slipped)?.edge()?.bpm ?? 0];
    expect(Math.abs(after / before - 1)).toBeLessThan(0.015);
  });

  it('old repetitions give way to new ones', () => {
    const then = triesOf(steady, 80, 120, 40).map((one) => ({ ...one, weight: 0.1 }));
    const now = triesOf({ ...steady, easyBpm: 110 }, 95, 140, 20);
    const better = tempoOf({ ...steady, easyBpm: 110 }, 0.5) as number;
    expect(Math.abs((tempoCurve([...then, ...now])?.edge()?.bpm ?? 0) / better - 1)).toBeLessThan(0.05);
  });
});

describe('the break of a sweep', () => {
  const learner = (easyBpm: number, growth: number, slips = 0.02) => ({
    ...anyLearner(1),
    ...still,
    easyBpm,
    growth,
    slips,
    apart: 0,
    mood: 0.2,
  });

  it('is found near where it was planted, sharp ones within 3 % nine times in ten', () => {
    let near = 0;
    for (let k = 0; k < 40; k += 1) {
      const easyBpm = 70 + k;
      const found = breakTempo(sweepOf(learner(easyBpm, 9), easyBpm, k + 1).swept);
      if (found && Math.abs(found.bpm / easyBpm - 1) <= 0.03) near += 1;
    }
    expect(near).toBeGreaterThanOrEqual(34);
  });

  it('is not found where there is none, slips or not', () => {
    let said = 0;
    for (let k = 0; k < 40; k += 1) {
      if (breakTempo(sweepOf(learner(400, 1.5, k % 2 ? 0.3 : 0), 90, k + 1).swept)) said += 1;
    }
    expect(said).toBeLessThanOrEqual(4);
  });

  it('is not found in too few notes', () => {
    expect(breakTempo(sweepOf(learner(80, 5), 80, 3).swept.slice(0, 20))).toBeNull();
  });

  it('is not seen in a player who lags behind the click, however far', () => {
    const { normal } = chance(4);
    const expected = Array.from({ length: 300 }, (_, k) => ({ index: k, beat: k / 4, timeS: 40 * Math.log(1 + k / 500) }));
    const notes = expected.map(({ index }) => ({ index, deviationMs: 0.3 * index + 4 * normal() }));
    expect(breakTempo(sweptNotes(notes, expected))).toBeNull();
  });
});

it('a learner plays the same for the same seed, better with practice, worse when tired', () => {
  const one = { ...anyLearner(3), mood: 0 };
  expect(repetitionOf(one, 90, 5)).toEqual(repetitionOf(one, 90, 5));
  const edgeOf = (state: typeof FRESH) => tempoOf(one, 0.5, state, 100) as number;
  expect(edgeOf({ gained: 0.2, playedToday: 0 })).toBeGreaterThan(1.1 * edgeOf(FRESH));
  expect(edgeOf({ gained: 0, playedToday: 60 })).toBeLessThanOrEqual(edgeOf(FRESH));
  expect(repetitionOf(one, 90, 5).tempo).toEqual(constantTempo(90));
});
