import { describe, expect, it } from 'vitest';
import { attackHabits } from '../across/attack-habits';
import { mergeDoubleAttacks } from '../align/merge-double-attacks';
import { doubleAttackTempo } from '../curve/double-attack-tempo';
import type { NoteResult, Onset } from '../schema/measures';
import { chance } from '../stats/random';
import { attackFaults, filterDoubleAttacks } from './attack-faults';

const plain = () => false;

/** A repetition of 16 notes of 0.2 s, levels and fades a little uneven as anyone's are. */
const repetition = (seed: number, change: (note: NoteResult) => Partial<NoteResult> = () => ({})): NoteResult[] => {
  const { normal } = chance(seed);
  return Array.from({ length: 16 }, (_, index) => {
    const onsetS = 0.2 * index + 0.005 * normal();
    const note: NoteResult = {
      index,
      expectedS: 0.2 * index,
      onsetS,
      deviationMs: 1000 * (onsetS - 0.2 * index),
      levelDb: -20 + 2 * normal(),
      fadeDb: 8 + 1.5 * normal(),
      offS: onsetS + 0.18 + 0.01 * normal(),
    };
    return { ...note, ...change(note) };
  });
};

describe('how notes speak', () => {
  it('has nothing to say of ordinary playing', () => {
    const found = Array.from({ length: 50 }, (_, seed) => attackFaults(repetition(seed), plain).length);
    expect(found.reduce((sum, count) => sum + count, 0)).toBeLessThanOrEqual(8);
  });

  it('tells a doubled, a ghosted, a dying and an overlapping note, each with its size', () => {
    const planted: Record<number, Partial<NoteResult>> = {
      3: { doubleAttackMs: 18 },
      6: { levelDb: -38 },
      9: { fadeDb: 35 },
      12: { offS: 0.2 * 12 + 0.36 },
    };
    const found = attackFaults(
      repetition(4, ({ index }) => planted[index] ?? {}),
      plain,
    );
    expect(found.map(({ index, kind }) => [index, kind])).toEqual([
      [3, 'doubled'],
      [6, 'ghosted'],
      [9, 'died'],
      [12, 'overlapping'],
    ]);
    expect(found[0]?.size).toBe(18);
    expect(found[1]?.size).toBeGreaterThan(14);
  });

  it('does not call a note ghosted beside accents that are asked for', () => {
    const accented = (index: number) => index % 2 === 0;
    const notes = repetition(5, ({ index, levelDb }) => ({ levelDb: (levelDb ?? 0) + (accented(index) ? 14 : 0) }));
    expect(attackFaults(notes, accented)).toEqual([]);
  });

  it('is not misled by an instrument that rattles at every attack', () => {
    const rattling = (odds: readonly number[]): Onset[] =>
      odds.map((doubledOdds, k) => ({ timeS: k, levelDb: -20, doubledOdds, doubleAttackMs: 20 }));
    const told = (onsets: readonly Onset[]) =>
      filterDoubleAttacks(onsets).map(({ doubleAttackMs }) => doubleAttackMs !== undefined);
    expect(told(rattling([3, 3.2, 2.9, 3.4, 3.1])).includes(true)).toBe(false);
    expect(told([...rattling([6]), ...[1, 2, 3, 4].map((timeS) => ({ timeS, levelDb: -20 }))])).toEqual([
      true,
      false,
      false,
      false,
      false,
    ]);
    expect(filterDoubleAttacks(rattling([6]))[0]).not.toHaveProperty('doubledOdds');
  });
});

describe('a note struck twice', () => {
  const at = (timesS: readonly number[], pitch?: number): Onset[] =>
    timesS.map((timeS) => ({ timeS, levelDb: -20, ...(pitch === undefined ? {} : { pitch }) }));

  it('is one note, its gap kept, not a second one', () => {
    const merged = mergeDoubleAttacks(at([0, 0.2, 0.238, 0.4], 60), 0.2);
    expect(merged.map(({ timeS }) => timeS)).toEqual([0, 0.2, 0.4]);
    expect(merged[1]?.doubleAttackMs).toBeCloseTo(38, 6);
  });

  it('stays two notes where they are of two pitches, or where notes are asked for about as fast', () => {
    expect(mergeDoubleAttacks([...at([0], 60), ...at([0.03], 62)], 0.2)).toHaveLength(2);
    expect(mergeDoubleAttacks(at([0, 0.045, 0.09], 60), 0.045)).toHaveLength(3);
    expect(mergeDoubleAttacks(at([0, 0.06], 60), 0.2)).toHaveLength(2);
  });
});

describe('habits of how notes speak', () => {
  const events = Array.from({ length: 16 }, () => ({ accent: false }));

  it('are found where a note speaks twice again and again', () => {
    const repetitions = Array.from({ length: 6 }, (_, seed) =>
      repetition(seed, ({ index }) => (index === 4 && seed % 3 > 0 ? { doubleAttackMs: 15 + seed } : {})),
    );
    expect(attackHabits(repetitions, events)).toMatchObject([{ kind: 'doubled', index: 4, count: 4, of: 6 }]);
  });

  it('are not seen in chance: in at most 5 of 100 takes whose notes double 2 times in 100', () => {
    let alarms = 0;
    for (let take = 0; take < 200; take += 1) {
      const { uniform } = chance(1000 + take);
      const repetitions = Array.from({ length: 3 + (take % 8) }, (_, r) =>
        repetition(97 * take + r, () => (uniform() < 0.02 ? { doubleAttackMs: 20 } : {})),
      );
      if (attackHabits(repetitions, events).some(({ kind }) => kind === 'doubled')) alarms += 1;
    }
    expect(alarms).toBeLessThanOrEqual(10);
  });
});

describe('the tempo from which notes come doubled', () => {
  const sweep = (seed: number, share: (bpm: number) => number) => {
    const { uniform } = chance(seed);
    return Array.from({ length: 120 }, (_, k) => ({ bpm: 80 + k, isDoubled: uniform() < share(80 + k) }));
  };

  it('is found where they begin', () => {
    const found = Array.from({ length: 50 }, (_, seed) => doubleAttackTempo(sweep(seed, (bpm) => (bpm > 150 ? 0.4 : 0.01))));
    expect(found.filter((bpm) => bpm !== null && Math.abs(bpm - 150) <= 12).length).toBeGreaterThanOrEqual(45);
  });

  it('is not told where there are none, or as many at any tempo', () => {
    const silent = (share: number) => Array.from({ length: 100 }, (_, seed) => doubleAttackTempo(sweep(seed, () => share)));
    expect(silent(0).every((bpm) => bpm === null)).toBe(true);
    expect(silent(0.02).filter((bpm) => bpm !== null).length).toBeLessThanOrEqual(5);
    expect(silent(0.3).filter((bpm) => bpm !== null).length).toBeLessThanOrEqual(5);
  });
});
