import { describe, expect, it } from 'vitest';
import { ExerciseSchema, TempoSchema } from '../schema/exercise';
import { beats, beatsNumber, writeBeats } from './beats';
import { barBeats, lengthBeats, notesPerBeat } from './exercise-shape';
import { noteValueName } from './note-values';
import { READY_EXERCISES } from './ready-exercises';

describe('exact beats', () => {
  it('add up without rounding', () => {
    const third = beats('1/3');
    expect(writeBeats(third.add(third).add(third))).toBe('1');
    expect(writeBeats(beats('-1/2').add('3/4'))).toBe('1/4');
    expect(beatsNumber('7/8')).toBe(0.875);
  });
});

describe('the shape of an exercise', () => {
  it('counts a bar in its beat unit', () => {
    expect(writeBeats(barBeats({ meter: { count: 6, unit: 8 }, beatUnit: '3/8' }))).toBe('2');
    expect(writeBeats(barBeats({ meter: { count: 4, unit: 4 }, beatUnit: '1/4' }))).toBe('4');
  });
});

describe.each(READY_EXERCISES.map((exercise) => [exercise.title, exercise] as const))('%s', (_title, exercise) => {
  it('is a valid exercise', () => {
    expect(ExerciseSchema.safeParse(exercise).error).toBeUndefined();
  });

  it('fits into its bars and ends on a note of a beat or more', () => {
    const last = exercise.events.at(-1);
    const end = beats(last?.at ?? '0').add(beats(last?.length ?? '0'));
    expect(end.compare(lengthBeats(exercise))).toBeLessThanOrEqual(0);
    expect(beatsNumber(last?.length ?? '0')).toBeGreaterThanOrEqual(1);
    expect(exercise.events[0]?.at).toBe(writeBeats(beats(exercise.pickup).neg()));
  });
});

it('knows how close the notes of each ready exercise are', () => {
  expect(READY_EXERCISES.map(notesPerBeat)).toEqual([4, 3, 4, 2, 2]);
});

describe('note values', () => {
  it('have British and American names', () => {
    expect(noteValueName('1/16', 'british')).toBe('semiquaver');
    expect(noteValueName('1/16', 'american')).toBe('sixteenth');
    expect(noteValueName('3/8', 'british')).toBe('dotted crotchet');
    expect(noteValueName('1/12', 'american')).toBe('triplet eighth');
    expect(noteValueName('5/7', 'american')).toBe('5/7');
  });
});

describe('a tempo', () => {
  it.each([0, 10_000, -5, Number.NaN, Number.POSITIVE_INFINITY])('of %f is refused with a sentence', (bpm) => {
    const checked = TempoSchema.safeParse(bpm);
    expect(checked.success).toBe(false);
    expect(checked.error?.issues[0]?.message).toMatch(/tempo/i);
  });
});
