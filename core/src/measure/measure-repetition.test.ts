import { describe, expect, it } from 'vitest';
import { align } from '../align/align';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { evenGridNotes } from './measure-recording';
import { measureRepetition, noteResults, widestStep } from './measure-repetition';
import { npvi } from './npvi';

const grid = { tempoBpm: 120, notesPerBeat: 4, beats: 4, startS: 1 };

/** Measures a grid played with planted deviations (ms); null leaves a note out. */
const measured = (deviationsMs: readonly (number | null)[], tolerance = TOLERANCE_PRESETS.secure) => {
  const notes = evenGridNotes(grid);
  const onsets = notes.flatMap((note, k) => {
    const deviation = deviationsMs[k];
    return deviation === null || deviation === undefined ? [] : [{ timeS: note.timeS + deviation / 1000, levelDb: -20 }];
  });
  const alignment = align(
    notes,
    onsets.map((onset) => onset.timeS),
  );
  const results = noteResults(notes, onsets, alignment, 0);
  return { results, measures: measureRepetition({ notes, results, extra: alignment.extra.length, tolerance }) };
};

const zeros = Array.from({ length: 16 }, () => 0);

describe('measures of a repetition', () => {
  it('are all naught for a perfect one', () => {
    const { measures } = measured(zeros);
    expect(measures.placementMs?.value).toBeCloseTo(0, 6);
    expect(measures.spreadMs?.value).toBeCloseTo(0, 6);
    expect(measures.unevennessPct?.value).toBeCloseTo(0, 6);
    expect(measures.npvi).toBeCloseTo(0, 6);
    expect(measures.accuracyPct).toBe(100);
  });

  it('follow the definitions for alternating notes of ±5 ms', () => {
    const { measures } = measured(zeros.map((_, k) => (k % 2 ? 5 : -5)));
    expect(measures.placementMs?.value).toBeCloseTo(0, 6);
    expect(measures.spreadMs?.value).toBeCloseTo(Math.sqrt((16 * 25) / 15), 6);
    // Steps of +10 and −10 ms on 125 ms, 15 of them, mean 10/15.
    const steps = Array.from({ length: 15 }, (_, k) => (k % 2 ? -10 : 10));
    const average = 10 / 15;
    const sd = Math.sqrt(steps.reduce((sum, step) => sum + (step - average) ** 2, 0) / 14);
    expect(measures.unevennessMs?.value).toBeCloseTo(sd, 6);
    expect(measures.unevennessPct?.value).toBeCloseTo((sd / 125) * 100, 6);
  });

  it('keep a steady lead out of spread, unevenness and accuracy', () => {
    const { measures } = measured(zeros.map(() => -40));
    expect(measures.placementMs?.value).toBeCloseTo(-40, 6);
    expect(measures.spreadMs?.value).toBeCloseTo(0, 6);
    expect(measures.accuracyPct).toBe(100);
  });

  it('count that lead where the player asked for placement', () => {
    const { measures } = measured(
      zeros.map(() => -40),
      { ...TOLERANCE_PRESETS.secure, placementCounts: true },
    );
    expect(measures.accuracyPct).toBe(0);
  });

  it('give rushing as a negative drift in per cent of the tempo', () => {
    const { measures } = measured(zeros.map((_, k) => -2.5 * k));
    expect(measures.driftMsPerBeat).toBeCloseTo(-10, 6);
    expect(measures.driftPct).toBeCloseTo(-2, 6);
  });

  it('let a missed note touch no neighbour', () => {
    const { measures, results } = measured(zeros.with(7, null as never));
    expect(measures.missed).toBe(1);
    expect(measures.extra).toBe(0);
    expect(results[7]?.onsetS).toBeNull();
    expect(results[8]?.deviationMs).toBeCloseTo(0, 6);
    expect(measures.unevennessPct?.value).toBeCloseTo(0, 6);
  });

  it('call a long silence a stop', () => {
    const { measures } = measured(zeros.map((_, k) => (k > 5 && k < 10 ? null : 0)));
    expect(measures.stops).toBe(1);
    expect(measures.missed).toBe(4);
  });

  it('have no value where nothing was played', () => {
    const { measures } = measured(zeros.map(() => null));
    expect(measures).toMatchObject({
      placementMs: null,
      spreadMs: null,
      unevennessPct: null,
      driftPct: null,
      accuracyPct: 0,
      missed: 16,
    });
  });

  it('find the step that is farthest from its length', () => {
    const { results } = measured(zeros.with(9, -14));
    expect(widestStep(results)).toMatchObject({ fromIndex: 8 });
    expect(widestStep(results)?.differenceMs).toBeCloseTo(-14, 6);
  });
});

describe('nPVI', () => {
  // Grabe & Low 2002: equal intervals 0, strictly alternating 2:1 66.7.
  it('is 0 for equal intervals and 66.7 for 2:1', () => {
    expect(npvi([0.2, 0.2, 0.2, 0.2])).toBe(0);
    expect(npvi([2, 1, 2, 1, 2, 1])).toBeCloseTo(66.667, 2);
    expect(npvi([1])).toBeNull();
  });
});
