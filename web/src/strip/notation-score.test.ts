import { type Exercise, READY_EXERCISES, readyExercise } from '@isochron/core';
import { describe, expect, it } from 'vitest';
import { notationScore, pitchKey } from './notation-score';

const symbols = (id: string) => notationScore(readyExercise(id) as Exercise);

describe('the notation', () => {
  it('writes sixteenths, triplets, dotted and plain notes for what they are', () => {
    expect(symbols('five-steps')[0]).toMatchObject({ value: 16, dots: 0, isTriplet: false });
    expect(symbols('five-steps').at(-1)).toMatchObject({ value: 2, dots: 0 });
    expect(symbols('rolling-threes')[0]).toMatchObject({ value: 8, isTriplet: true });
    expect(symbols('long-short-walk')[0]).toMatchObject({ value: 8, dots: 1 });
    expect(symbols('long-short-walk')[1]).toMatchObject({ value: 16, dots: 0 });
  });

  it('names pitches by letter and octave, middle C being c/4', () => {
    expect([60, 61, 69, 36].map(pitchKey)).toEqual(['c/4', 'c#/4', 'a/4', 'c/2']);
  });

  it('shows fingers and sticks where the exercise has them', () => {
    expect(symbols('five-steps')[4]?.fingering).toBe('5');
    expect(
      symbols('rolling-threes')
        .map((symbol) => symbol.fingering)
        .slice(0, 4),
    ).toEqual(['R', 'L', 'R', 'L']);
    expect(symbols('long-short-walk')[0]?.fingering).toBe('');
  });

  it('fills a gap with a rest', () => {
    const exercise = readyExercise('five-steps') as Exercise;
    const [first, , third] = exercise.events;
    const score = notationScore({ ...exercise, events: [first, third] as Exercise['events'] });
    expect(score.map(({ isRest, value, at }) => ({ isRest, value, at }))).toEqual([
      { isRest: false, value: 16, at: 0 },
      { isRest: true, value: 16, at: 0.25 },
      { isRest: false, value: 16, at: 0.5 },
    ]);
  });

  it.each(READY_EXERCISES.map((one) => [one.title, one] as const))(
    'has a symbol over every column of %s',
    (_title, exercise) => {
      expect(notationScore(exercise).filter((symbol) => !symbol.isRest)).toHaveLength(exercise.events.length);
    },
  );
});
