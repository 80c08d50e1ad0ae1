import { describe, expect, it } from 'vitest';
import { firstDrill } from '../plan/practice-config';
import { handsInTurn, type MadePlayer, madeResults } from '../player/made-results';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { GridEvent } from '../schema/grid';
import type { Passage } from '../schema/passage';
import { chance } from '../stats/random';
import { labelDifferences } from './label-differences';
import { weakLinks } from './weak-links';

const share = (takes: number, isSo: (seed: number) => boolean): number => {
  let found = 0;
  for (let seed = 1; seed <= takes; seed += 1) if (isSo(seed)) found += 1;
  return found / takes;
};

describe('weak steps', () => {
  const named = (player: MadePlayer) => weakLinks(madeResults(player)).filter((link) => link.standsOut);

  it.each([3, 4, 5, 8, 12, 20, 40])(
    'are told to at most 5 of 100 players without any, at %i repetitions of 8 to 64 notes',
    (repetitions) => {
      for (const notes of [8, 16, 64]) {
        const alarms = share(300, (seed) => named({ repetitions, notes, unsteadinessMs: 8, seed: seed + notes }).length > 0);
        // Two standard errors of 300 takes above what is wanted.
        expect(alarms, `${notes} notes`).toBeLessThanOrEqual(0.05 + 0.025);
      }
    },
  );

  it.each<[string, Partial<MadePlayer>]>([
    ['some notes are less steady than others', { unequal: true }],
    ['the playing drags steadily', { driftPct: 2 }],
    ['each note makes up for the one before', { autocorrelation: -0.3 }],
    ['neighbours hang together', { autocorrelation: 0.5 }],
  ])('are not made of something else: %s', (_what, other) => {
    const alarms = share(400, (seed) => named({ repetitions: 10, notes: 16, unsteadinessMs: 8, seed, ...other }).length > 0);
    expect(alarms).toBeLessThanOrEqual(0.05 + 0.022);
  });

  it('of 15 ms against 8 ms of scatter are found: more than every other time in 10 repetitions, nearly always in 20', () => {
    const habitMs = Array.from({ length: 16 }, (_, k) => (k === 6 ? 15 : 0));
    const power = (repetitions: number) =>
      share(300, (seed) => named({ repetitions, notes: 16, unsteadinessMs: 8, seed, habitMs }).some(({ from }) => from === 5));
    expect(power(10)).toBeGreaterThanOrEqual(0.55);
    expect(power(20)).toBeGreaterThanOrEqual(0.95);
  });

  it('are the step that leads to a late note, not the return from it', () => {
    const habitMs = Array.from({ length: 16 }, (_, k) => (k === 6 ? 15 : 0));
    let leading = 0;
    let all = 0;
    for (let seed = 1; seed <= 200; seed += 1)
      for (const { from } of named({ repetitions: 20, notes: 16, unsteadinessMs: 8, seed, habitMs })) {
        all += 1;
        if (from === 5) leading += 1;
      }
    expect(leading / all).toBeGreaterThanOrEqual(0.95);
  });

  it('have ranges that cover the truth in 93 to 97 of 100', () => {
    const habitMs = Array.from({ length: 16 }, (_, k) => (k === 6 ? 15 : 0));
    for (const repetitions of [5, 10, 20]) {
      let covered = 0;
      let all = 0;
      for (let seed = 1; seed <= 250; seed += 1)
        for (const { from, biasMs } of weakLinks(madeResults({ repetitions, notes: 16, unsteadinessMs: 8, seed, habitMs }))) {
          const truth = (habitMs[from + 1] as number) - (habitMs[from] as number);
          all += 1;
          if ((biasMs.low ?? 99) <= truth && truth <= (biasMs.high ?? -99)) covered += 1;
        }
      expect(covered / all).toBeGreaterThanOrEqual(0.93);
      expect(covered / all).toBeLessThanOrEqual(0.97);
    }
  });
});

describe('fingers and hands', () => {
  const { events } = firstDrill(builtInPassage('five-steps') as Passage).grid;
  const alternating = handsInTurn(events);
  const told = (player: Omit<MadePlayer, 'notes'>, of: readonly GridEvent[]) =>
    labelDifferences(madeResults({ ...player, notes: of.length }), of).some((one) => one.biasStandsOut);

  it.each([0, 4, 8])('are not told of notes that have habits of their own of %i ms', (habit) => {
    for (const autocorrelation of [0, -0.3])
      for (const labelled of [events, alternating]) {
        const alarms = share(200, (seed) => {
          const { normal } = chance(seed + 31_000);
          const habitMs = labelled.map(() => habit * normal());
          return told({ repetitions: 10, unsteadinessMs: 6, seed, habitMs, autocorrelation }, labelled);
        });
        expect(alarms).toBeLessThanOrEqual(0.05 + 0.03);
      }
  });

  it('are told where one is late, however the notes are', () => {
    const power = share(150, (seed) => {
      const { normal } = chance(seed + 77_000);
      const habitMs = alternating.map((_, k) => 2 * normal() + (k % 2 ? 8 : 0));
      return told({ repetitions: 10, unsteadinessMs: 5, seed, habitMs }, alternating);
    });
    expect(power).toBeGreaterThanOrEqual(0.9);
  });

  it('are not softer because the other has the accents', () => {
    const accented = alternating.map((event, k) => ({ ...event, accent: k % 4 === 0 }));
    const alarms = share(200, (seed) =>
      labelDifferences(
        madeResults({
          repetitions: 8,
          notes: accented.length,
          unsteadinessMs: 6,
          seed,
          levelDb: (k) => (k % 4 === 0 ? -14 : -20),
        }),
        accented,
      ).some((one) => one.levelStandsOut),
    );
    expect(alarms).toBeLessThanOrEqual(0.05 + 0.03);
  });
});
