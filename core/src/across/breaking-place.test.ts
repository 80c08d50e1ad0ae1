import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { firstDrill } from '../plan/practice-config';
import type { Measures, NoteResult } from '../schema/measures';
import { chance } from '../stats/random';
import { breakingPlace } from './breaking-place';

const gridOfBars = (bars: number) =>
  firstDrill(passageOfScore(readText(`meter: 4/4\n${'C4/8 D4 E4 F4 G4 F4 E4 D4 |\n'.repeat(bars)}`), 'long').passage).grid;
const NOTES = 8;

/** A repetition that broke off at a note, from 0; with `null` it went through. */
const repetition = (bars: number, note: number | null, part: Partial<Measures> = {}) => ({
  notes: Array.from({ length: bars * NOTES }, () => ({})) as NoteResult[],
  measures: { ...(note === null ? {} : { brokenOff: { note, of: bars * NOTES, bar: 1 } }), ...part } as Measures,
  verdict: { outcome: note === null ? ('clean' as const) : ('broken' as const) } as never,
});

describe('where it breaks', () => {
  it('is the bar in which it broke again and again, with how many came so far', () => {
    const grid = gridOfBars(32);
    const broke = [154, 157, 30, 153].map((note) => repetition(32, note));
    expect(breakingPlace(grid, [...broke, repetition(32, null)])).toEqual({ bar: 20, breaks: 3, reached: 4, note: 153 });
    // A stumble is a break that was gone on from.
    const stumbled = [155, 154].map((note) => repetition(32, null, { playedAs: { kind: 'stumble', note } }));
    expect(breakingPlace(grid, [repetition(32, 157), ...stumbled])).toMatchObject({ bar: 20, breaks: 3 });
  });

  it('is none where it broke once, or was ended by hand', () => {
    const grid = gridOfBars(32);
    expect(breakingPlace(grid, [])).toBeNull();
    expect(breakingPlace(grid, [repetition(32, 157), repetition(32, null)])).toBeNull();
    const byHand = Array.from({ length: 6 }, () =>
      repetition(32, null, { brokenOff: { note: 157, of: 256, bar: 20, byHand: true } }),
    );
    expect(breakingPlace(grid, byHand)).toBeNull();
  });

  it('is said of players who break anywhere in at most one take of twenty', () => {
    for (const bars of [2, 4, 8, 32])
      for (const hazard of [0.5 / (bars * NOTES), 2 / (bars * NOTES)]) {
        const grid = gridOfBars(bars);
        const { uniform } = chance(17 * bars + Math.round(1e4 * hazard));
        const takes = 400;
        let said = 0;
        for (let take = 0; take < takes; take += 1) {
          const all = Array.from({ length: 3 + Math.floor(18 * uniform()) }, () => {
            const note = Array.from({ length: bars * NOTES }, uniform).findIndex((value) => value < hazard);
            return repetition(bars, note < 1 ? null : note);
          });
          if (breakingPlace(grid, all)) said += 1;
        }
        // Three standard errors above 5 %.
        expect(said / takes, `${bars} bars`).toBeLessThan(0.05 + 3 * Math.sqrt((0.05 * 0.95) / takes));
      }
  });

  it('is found where one bar of eight breaks half of the time and the others hardly ever', () => {
    const grid = gridOfBars(8);
    const { uniform } = chance(99);
    let right = 0;
    for (let take = 0; take < 200; take += 1) {
      const all = Array.from({ length: 10 }, () => {
        const anywhere = Array.from({ length: 64 }, uniform).findIndex((value) => value < 0.001);
        const here = uniform() < 0.5 ? 40 + Math.floor(8 * uniform()) : -1;
        const first = [anywhere, here].filter((note) => note > 0).sort((a, b) => a - b)[0];
        return repetition(8, first ?? null);
      });
      const found = breakingPlace(grid, all);
      expect(found === null || found.bar === 6).toBe(true);
      if (found?.bar === 6) right += 1;
    }
    // 87 % when this was written.
    expect(right / 200).toBeGreaterThan(0.8);
  });
});
