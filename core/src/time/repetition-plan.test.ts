import { describe, expect, it } from 'vitest';
import { READY_EXERCISES, readyExercise } from '../rhythm/ready-exercises';
import type { Exercise } from '../schema/exercise';
import { countInDivisions, planRepetition } from './repetition-plan';

const plan = (id: string, tempoBpm: number) =>
  planRepetition({ exercise: readyExercise(id) as Exercise, tempoBpm, startS: 10, countInBars: 1 });

describe('a planned repetition', () => {
  it('counts one bar in before the first downbeat', () => {
    const { downbeatS, notes, clicks } = plan('five-steps', 60);
    expect(downbeatS).toBe(14);
    expect(notes[0]?.timeS).toBe(14);
    expect(clicks[0]).toEqual({ timeS: 10, kind: 'bar' });
  });

  it('counts in the value of the first note', () => {
    const countIn = (id: string) => plan(id, 60).clicks.filter((click) => click.timeS < 14 - 1e-9);
    expect(countIn('five-steps')).toHaveLength(16);
    expect(countIn('rolling-threes')).toHaveLength(12);
    // A dotted first note divides no beat evenly: the beats themselves are counted.
    expect(countIn('long-short-walk')).toHaveLength(4);
  });

  it('leaves the pickup to the player: its divisions stop where it begins', () => {
    const { notes, clicks } = plan('in-on-the-upbeat', 60);
    expect(notes[0]?.timeS).toBe(13.5);
    expect(clicks.filter((click) => click.timeS < 14 - 1e-9).map((click) => click.timeS)).toEqual([
      10, 10.5, 11, 11.5, 12, 12.5, 13,
    ]);
    expect(clicks.some((click) => click.timeS === 14 && click.kind === 'bar')).toBe(true);
  });

  it('never divides faster than one can count', () => {
    const exercise = readyExercise('five-steps') as Exercise;
    expect(countInDivisions(exercise, 60)).toBe(4);
    expect(countInDivisions(exercise, 160)).toBe(2);
    expect(countInDivisions(exercise, 300)).toBe(1);
  });

  it('clicks every beat of the exercise, the bars marked, and ends with its last bar', () => {
    const { clicks, endS } = plan('five-steps', 120);
    const played = clicks.filter((click) => click.timeS >= 12 - 1e-9);
    expect(played.map((click) => click.kind)).toEqual(['bar', 'beat', 'beat', 'beat', 'bar', 'beat', 'beat', 'beat']);
    expect(endS).toBe(16);
  });

  it.each(READY_EXERCISES.map((exercise) => [exercise.id, exercise] as const))(
    'of %s spaces its notes as notated',
    (_id, exercise) => {
      const { notes } = planRepetition({ exercise, tempoBpm: 90, startS: 0, countInBars: 1 });
      for (const [k, note] of notes.slice(0, -1).entries()) {
        expect(note.intervalS).toBeCloseTo((notes[k + 1]?.timeS ?? 0) - note.timeS, 9);
      }
    },
  );
});
