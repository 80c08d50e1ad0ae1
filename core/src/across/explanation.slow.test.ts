import { describe, expect, it } from 'vitest';
import { firstDrill } from '../plan/practice-config';
import { madeResults } from '../player/made-results';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { GridEvent } from '../schema/grid';
import type { Passage } from '../schema/passage';
import { chance } from '../stats/random';
import { detrended } from './detrended';
import { explain } from './explanation';
import { atLeastSum, scatteringNote } from './scattering-note';

const events = firstDrill(builtInPassage('five-steps') as Passage).grid.events.slice(0, 16);
const NOTES = 16;
const TAKES = 60;
const withFingers: GridEvent[] = events.map((event, k) => ({
  ...event,
  notes: event.notes.map((note) => ({ ...note, marks: { finger: ['1', '2', '3', '4', '5', '4', '3', '2'][k % 8] as string } })),
}));

const told = (repetitions: number, habitMs: (k: number) => number, seed: number) =>
  explain(
    madeResults({
      repetitions,
      notes: NOTES,
      unsteadinessMs: 6,
      seed: seed * 7919,
      habitMs: Array.from({ length: NOTES }, (_, k) => habitMs(k)),
    }),
    withFingers,
  )?.explanation?.subject ?? null;

describe('what explains a habit', () => {
  const cases = [
    ['a late fourth finger', (k: number) => ([3, 5].includes(k % 8) ? 14 : 0), { family: 'label', kind: 'finger', label: '4' }],
    ['a limp', (k: number) => (k % 2 ? 12 : 0), { family: 'place', place: 2, of: 2 }],
    ['a rush into the beat', (k: number) => (k % 4 === 3 ? -12 : 0), { family: 'place', place: 4, of: 4 }],
    ['one late note', (k: number) => (k === 6 ? 18 : 0), { family: 'note', position: 6 }],
    ['one step that is too long', (k: number) => (k >= 7 ? 20 : 0), { family: 'step', position: 7 }],
  ] as const;

  it.each(cases)('is %s where it is that, and stays so with more repetitions', (_name, habitMs, subject) => {
    for (const repetitions of [10, 20, 40]) {
      let right = 0;
      for (let seed = 1; seed <= TAKES / 3; seed += 1) {
        const found = told(repetitions, habitMs, seed);
        if (found && Object.entries(subject).every(([key, value]) => found[key as keyof typeof found] === value)) right += 1;
      }
      expect(right / (TAKES / 3), `${repetitions}`).toBeGreaterThanOrEqual(0.8);
    }
  });

  it('is nothing where there is none, where it only drags, and where every note has a habit of its own', () => {
    let false_ = 0;
    for (let seed = 1; seed <= TAKES; seed += 1) {
      const { normal } = chance(seed + 31);
      const own = Array.from({ length: NOTES }, () => 6 * normal());
      if (told(5, () => 0, seed)) false_ += 1;
      if (told(5, (k) => 1.2 * k, seed)) false_ += 1;
      const found = told(20, (k) => own[k] as number, seed);
      if (found?.family === 'label' || found?.family === 'place') false_ += 1;
    }
    expect(false_ / (3 * TAKES)).toBeLessThanOrEqual(0.05);
  });

  it('is not asked below three repetitions', () => {
    expect(explain(madeResults({ repetitions: 2, notes: NOTES, unsteadinessMs: 6, seed: 1 }), withFingers)).toBeNull();
  });
});

describe('a note that scatters', () => {
  const scattering = (times: number, seed: number, slips = 0) => {
    const { normal, uniform } = chance(seed * 104_729);
    const rows = madeResults({ repetitions: 12, notes: NOTES, unsteadinessMs: 5, seed: seed * 7919 }).map((row) =>
      row.map((note, k) => {
        const more = k === 8 ? Math.sqrt(times ** 2 - 1) * 5 * normal() : 0;
        return { ...note, deviationMs: (note.deviationMs ?? 0) + more + (uniform() < slips ? 40 : 0) };
      }),
    );
    const data = detrended(rows);
    return data && scatteringNote(data);
  };

  it('is found where one does, and not where all do, or where there are only slips', () => {
    let found = 0;
    let wrong = 0;
    for (let seed = 1; seed <= TAKES; seed += 1) {
      if (scattering(5, seed)?.position === 8) found += 1;
      if (scattering(1, seed)) wrong += 1;
      if (scattering(1, seed, 0.03)) wrong += 1;
    }
    expect(found / TAKES).toBeGreaterThanOrEqual(0.7);
    expect(wrong / (2 * TAKES)).toBeLessThanOrEqual(0.04);
  });

  it('knows the chance of a sum of ranks', () => {
    // Two even values add up to 1.5 or more in 1 of 8 cases: a triangle with sides of a half.
    expect(atLeastSum(1.5, 2)).toBeCloseTo(1 / 8, 12);
    expect(atLeastSum(1.5, 3)).toBeCloseTo(0.5, 12);
    expect(atLeastSum(20, 40)).toBeCloseTo(0.5, 6);
  });
});
