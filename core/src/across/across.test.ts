import { describe, expect, it } from 'vitest';
import { firstDrill } from '../plan/practice-config';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { GridEvent } from '../schema/grid';
import type { NoteResult } from '../schema/measures';
import type { Passage } from '../schema/passage';
import type { Repetition } from '../schema/take';
import type { TempoMapDocument } from '../schema/tempo';
import { chance } from '../stats/random';
import { sampleSd } from '../stats/summary';
import { constantTempo } from '../time/tempo-map';
import { describeReason } from '../words/describe-reason';
import { acrossRepetitions, byGrid } from './across-repetitions';
import { clockMotorSplit } from './clock-motor';
import { findingOf } from './finding';
import { labelDifferences, welchDifference } from './label-differences';
import { positionProfile } from './position-profile';
import { oneWayAnova, varianceComponents } from './variance-components';
import { weakLinks } from './weak-links';

const gridFor = (id: string) => firstDrill(builtInPassage(id) as Passage).grid;

const NOTES = 16;
const STEP_S = 0.125;

/** Repetitions with a habit (ms by note) and a random unsteadiness (ms). */
const played = (options: {
  count: number;
  unsteadinessMs: number;
  habit?: (k: number) => number;
  seed?: number;
  level?: (k: number) => number;
}) => {
  const { count, unsteadinessMs, habit = () => 0, seed = 1, level = () => -20 } = options;
  const { normal } = chance(seed);
  return Array.from({ length: count }, () =>
    Array.from({ length: NOTES }, (_, index): NoteResult => {
      const deviationMs = 30 + habit(index) + unsteadinessMs * normal();
      const expectedS = index * STEP_S;
      return { index, expectedS, onsetS: expectedS + deviationMs / 1000, deviationMs, levelDb: level(index) + 0.5 * normal() };
    }),
  );
};

const asRepetitions = (rows: readonly NoteResult[][], tempo: TempoMapDocument = constantTempo(90)) =>
  rows.map((notes, index) => ({ index, notes, tempo, verdict: { outcome: 'close' }, measures: {} })) as unknown as Repetition[];

describe('the profile of positions', () => {
  it('finds a planted habit and leaves the placement out', () => {
    const profile = positionProfile(played({ count: 40, unsteadinessMs: 4, habit: (k) => (k === 5 ? 15 : 0) }));
    expect(profile[5]?.meanMs.value).toBeCloseTo(15, -1);
    expect(profile[5]?.meanMs.low).toBeGreaterThan(10);
    expect(Math.abs(profile[2]?.meanMs.value ?? 9)).toBeLessThan(2.5);
    expect(profile[9]?.sdMs).toBeGreaterThan(2.5);
    expect(profile[9]?.sdMs).toBeLessThan(5.5);
  });
});

/**
 * NIST StRD, analysis of variance, sets SmLs01–06: nine treatments; in each the first value is the treatment's centre and the
 * others lie 0.1 below and above it in turn. Written down from memory of the sets' construction, with their certified values:
 * F = 21, 201 and 2001 for 21, 201 and 2001 values a treatment, residual mean square 0.01.
 */
const smls = (replicates: number, offset: number): number[][] =>
  [0.4, 0.3, 0.5, 0.3, 0.5, 0.3, 0.5, 0.3, 0.5].map((centre) =>
    Array.from({ length: replicates }, (_, k) => offset + centre + (k === 0 ? 0 : k % 2 ? -0.1 : 0.1)),
  );

describe('analysis of variance', () => {
  it.each([
    [1, 21],
    [1, 201],
    [1, 2001],
    [1_000_000, 21],
    [1_000_000, 201],
  ])('agrees with the certified values at offset %i, %i values a treatment', (offset, replicates) => {
    const anova = oneWayAnova(smls(replicates, offset));
    // A value near a million holds 9 decimals, so its thousandth parts are uncertain from the seventh digit on.
    const digits = offset === 1 ? 9 : 5;
    expect((anova?.fStatistic ?? 0) / replicates).toBeCloseTo(1, digits);
    expect(anova?.withinMeanSquare).toBeCloseTo(0.01, digits);
    expect(anova?.betweenDegrees).toBe(8);
    expect(anova?.withinDegrees).toBe(9 * (replicates - 1));
    expect(anova?.groupSize).toBeCloseTo(replicates, 10);
  });

  it('splits planted systematic and random parts', () => {
    const { normal } = chance(4);
    const centres = Array.from({ length: 60 }, () => 6 * normal());
    const components = varianceComponents(centres.map((centre) => Array.from({ length: 30 }, () => centre + 3 * normal())));
    expect(Math.abs((components?.systematicSdMs ?? 0) - sampleSd(centres))).toBeLessThan(0.3);
    expect(components?.randomSdMs).toBeCloseTo(3, 0);
  });

  it('finds nothing systematic where there is only chance', () => {
    const { normal } = chance(9);
    const components = varianceComponents(Array.from({ length: 16 }, () => Array.from({ length: 20 }, () => normal())));
    expect(components?.systematicShare).toBeLessThan(0.06);
    expect(varianceComponents([[1, 2, 3]])).toBeNull();
  });
});

describe('weak links', () => {
  it('name the planted step and its direction', () => {
    const rows = played({ count: 12, unsteadinessMs: 5, habit: (k) => (k >= 4 ? -19 : 0) });
    const [first] = weakLinks(rows);
    expect(first).toMatchObject({ from: 3, standsOut: true });
    expect(first?.biasMs.value).toBeLessThan(-14);
    expect(first?.biasMs.high).toBeLessThan(-10);
  });

  it('say nothing of two repetitions', () => {
    expect(weakLinks(played({ count: 2, unsteadinessMs: 5 }))).toEqual([]);
  });
});

describe('labels', () => {
  const events = Array.from({ length: NOTES }, (_, k): GridEvent => {
    const marks = { hand: k % 2 ? ('left' as const) : ('right' as const) };
    const note = { from: `n${k}`, pitch: null, length: '1/4', staff: 1 as const, voice: 1, marks };
    return { at: `${k}/4`, length: '1/4', accent: false, notes: [note] };
  });

  it('find a hand that is late and soft, with its interval', () => {
    const rows = played({ count: 8, unsteadinessMs: 4, habit: (k) => (k % 2 ? 9 : 0), level: (k) => (k % 2 ? -24 : -20) });
    const [difference] = labelDifferences(rows, events);
    expect(difference).toMatchObject({ kind: 'hand', first: { label: 'left' }, second: { label: 'right' } });
    expect(difference?.biasMs.low).toBeGreaterThan(6);
    expect(difference?.biasMs.high).toBeLessThan(12);
    expect(difference?.levelDb.value).toBeCloseTo(-4, 0);
  });

  it('compute Welch’s interval as by hand', () => {
    // Worked by hand: means 3 and 6, variances 2.5 and 10, n = 5 each; error √2.5, degrees 2.5²/(0.25/4·… ) = 5.88.
    const { value, low, high } = welchDifference([1, 2, 3, 4, 5], [2, 4, 6, 8, 10]);
    expect(value).toBe(-3);
    expect(((high ?? 0) - (low ?? 0)) / 2 / Math.sqrt(2.5)).toBeCloseTo(2.4587, 2);
  });
});

describe('clock and motor', () => {
  it('come back from intervals made by the model (Wing & Kristofferson 1973)', () => {
    const { normal } = chance(21);
    const count = 20_000;
    const delays = Array.from({ length: count + 1 }, () => 6 * normal());
    const intervals = Array.from({ length: count }, (_, k) => 400 + 12 * normal() + (delays[k + 1] ?? 0) - (delays[k] ?? 0));
    const split = clockMotorSplit([intervals]);
    expect(split?.clockSdMs).toBeCloseTo(12, 0);
    expect(split?.motorSdMs).toBeCloseTo(6, 0);
    expect(split?.fits).toBe(true);
  });

  it.each([8, 16, 40])('come back from several short runs of %i intervals, and the model fits where it is true', (length) => {
    let clock = 0;
    let motor = 0;
    let misfits = 0;
    const takes = 300;
    for (let seed = 1; seed <= takes; seed += 1) {
      const { normal } = chance(seed + length);
      const runs = Array.from({ length: 10 }, () => {
        const delays = Array.from({ length: length + 1 }, () => 6 * normal());
        return Array.from({ length }, (_, k) => 400 + 12 * normal() + (delays[k + 1] ?? 0) - (delays[k] ?? 0));
      });
      const split = clockMotorSplit(runs);
      clock += (split?.clockSdMs ?? 0) ** 2 / takes;
      motor += (split?.motorSdMs ?? 0) ** 2 / takes;
      if (!split?.fits) misfits += 1;
    }
    expect(Math.abs(Math.sqrt(clock) - 12)).toBeLessThan(1);
    expect(Math.abs(Math.sqrt(motor) - 6)).toBeLessThan(1.2);
    expect(misfits / takes).toBeLessThanOrEqual(0.05);
  });

  it('say where the model does not fit, and keep still with too few', () => {
    const wandering = Array.from({ length: 60 }, (_, k) => 400 + 30 * Math.sin(k / 9));
    expect(clockMotorSplit([wandering])?.fits).toBe(false);
    expect(clockMotorSplit([wandering.slice(0, 10)])).toBeNull();
  });
});

describe('the finding', () => {
  const across = (rows: readonly NoteResult[][], id = 'five-steps', tempo?: TempoMapDocument) =>
    acrossRepetitions({ grid: gridFor(id), repetitions: asRepetitions(rows, tempo) }, false);
  const sentence = (rows: readonly NoteResult[][]) => describeReason(findingOf(across(rows)), { noteNaming: 'british' });

  it('names the weak step where there is one', () => {
    expect(sentence(played({ count: 12, unsteadinessMs: 4, habit: (k) => (k >= 4 ? -19 : 0) }))).toMatch(
      /step from note 4 to note 5 is (1[5-9]|2\d) ms too short/,
    );
  });

  it('names a hand that is late', () => {
    const rows = played({ count: 10, unsteadinessMs: 5, habit: (k) => (k % 2 ? 7 : 0) });
    const finding = findingOf(across(rows, 'rolling-threes'));
    expect(finding).toMatchObject({ code: 'finding-label-timing', values: { first: 'left', second: 'right' } });
    expect(describeReason(finding, { noteNaming: 'british' })).toMatch(/^The left hand plays \d ms later than the right hand/);
  });

  it('says that no spot stands out where none does', () => {
    expect(sentence(played({ count: 12, unsteadinessMs: 6, seed: 3 }))).toMatch(/^No spot stands out/);
  });

  it('names no spot where the beats of a recording unsteadiness, and the same spot where they do not', () => {
    const rows = played({ count: 12, unsteadinessMs: 4, habit: (k) => (k >= 4 ? -19 : 0) });
    const beats = (unsteadinessMs: number): TempoMapDocument => ({
      kind: 'beats',
      timesS: [0, 0.5, 1, 1.5, 2],
      unsteadinessMs,
    });
    const uneven = across(rows, 'five-steps', beats(8));
    expect(uneven.links).toEqual([]);
    expect(uneven.profile).not.toEqual([]);
    expect(findingOf(uneven).code).toBe('finding-along');
    expect(findingOf(across(rows, 'five-steps', beats(0.5))).code).toBe('finding-step');
  });

  it('asks for more where there is too little', () => {
    expect(sentence(played({ count: 2, unsteadinessMs: 6 }))).toMatch(/^Too few/);
  });
});

describe('repetitions of several grids', () => {
  it('are kept apart, and those of one grid are put together over takes', () => {
    const five = firstDrill(builtInPassage('five-steps') as Passage);
    const three = firstDrill(builtInPassage('rolling-threes') as Passage);
    // The same notes, read anew from the passage: the same grid.
    const again = firstDrill(structuredClone(builtInPassage('five-steps')) as Passage);
    const repetitions = (drills: number[]) => drills.map((drill, index) => ({ index, drill })) as unknown as Repetition[];
    const groups = byGrid([
      { drills: [three, five], repetitions: repetitions([0, 1, 1]) },
      { drills: [again], repetitions: repetitions([0, 0]) },
    ]);
    expect(groups.map((group) => group.repetitions.length)).toEqual([4, 1]);
    expect(groups[0]?.grid).toBe(five.grid);
  });
});
