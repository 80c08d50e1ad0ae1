import { describe, expect, it } from 'vitest';
import { firstDrill } from '../plan/practice-config';
import { builtInPassage } from '../rhythm/built-in-passages';
import type { Drill } from '../schema/grid';
import type { NoteResult, Onset } from '../schema/measures';
import type { Passage } from '../schema/passage';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { profileOf } from '../signal/profiles';
import { chance } from '../stats/random';
import { planRepetition } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { toleranceWindowMs } from '../verdict/tolerance-window';
import { describeReason } from '../words/describe-reason';
import { type AnalysisContext, analyseRepetition } from './analyse-repetition';
import { evenGridNotes } from './measure-recording';
import { measureRepetition } from './measure-repetition';

const INTERVAL_S = 0.125;
const gridOf = (count: number) => evenGridNotes({ tempoBpm: 120, notesPerBeat: 4, beats: count / 4, startS: 0 });
const tolerance = TOLERANCE_PRESETS.secure;
/** What the secure tolerance allows at 125 ms: half its window. */
const ALLOWED_MS = toleranceWindowMs(tolerance, 1000 * INTERVAL_S) / 2;

/** A drill of so many even sixteenths. */
const drillOf = (count: number): Drill => {
  const { grid, ...drill } = firstDrill(builtInPassage('five-steps') as Passage);
  const [event] = grid.events;
  if (!event) throw new Error('nothing to make it of');
  const events = Array.from({ length: count }, (_, k) => ({ ...event, at: `${k}/4`, length: '1/4' }));
  return { ...drill, grid: { ...grid, events, bars: Math.ceil(count / 16) } };
};

/** What was heard, as it is analysed by a player whose delay is unknown and about nought. */
const heard = (onsets: readonly Onset[], drill: Drill, plan: AnalysisContext['plan'], farS?: number) =>
  analyseRepetition(onsets, {
    drill,
    plan,
    tolerance,
    profile: profileOf('tap'),
    latencyS: null,
    offset: { nearS: 0, reachS: 0.06, farS },
    gap: false,
  });

/** One repetition of even sixteenths at 120, as it is analysed. */
const analysed = (count: number, deviationMs: (k: number) => number) => {
  const drill = drillOf(count);
  const plan = planRepetition({ drill, tempo: constantTempo(120), startS: 0 });
  return heard(
    plan.notes.map(({ timeS, index }) => ({ timeS: timeS + deviationMs(index) / 1000, levelDb: -20 })),
    drill,
    plan,
  );
};

describe('the intervals of the figures', () => {
  const RUNS = 2500;
  it.each([8, 12, 20, 33, 60])('cover the truth in 93 to 97 of 100 repetitions of %i notes', (count) => {
    const notes = gridOf(count);
    const { normal } = chance(count);
    const [sd, placed] = [6, 11];
    const trueUnevennessPct = (100 * Math.SQRT2 * sd) / (1000 * INTERVAL_S);
    const covered = { placement: 0, spread: 0, unevenness: 0 };
    for (let run = 0; run < RUNS; run += 1) {
      const results = notes.map(({ index, timeS }): NoteResult => {
        const deviationMs = placed + sd * normal();
        return { index, expectedS: timeS, onsetS: timeS + deviationMs / 1000, deviationMs, levelDb: -20 };
      });
      const measures = measureRepetition({ notes, results, extra: 0, tolerance });
      const holds = (figure: { low: number | null; high: number | null } | null, truth: number) =>
        (figure?.low ?? truth + 1) <= truth && (figure?.high ?? truth - 1) >= truth;
      if (holds(measures.placementMs, placed)) covered.placement += 1;
      if (holds(measures.spreadMs, sd)) covered.spread += 1;
      if (holds(measures.unevennessPct, trueUnevennessPct)) covered.unevenness += 1;
      // A figure never lies outside its own range.
      const { value, low, high } = measures.placementMs ?? { value: 0, low: 1, high: 0 };
      expect((low ?? 0) <= value && value <= (high ?? 0)).toBe(true);
    }
    for (const figure of ['placement', 'spread', 'unevenness'] as const) {
      expect(covered[figure] / RUNS, figure).toBeGreaterThanOrEqual(0.93);
      expect(covered[figure] / RUNS, figure).toBeLessThanOrEqual(0.97);
    }
  });
});

describe('a drag or a rush', () => {
  it.each([1.5, 2, -1.5, -2])('of %s %% is named where it makes a repetition fail', (driftPct) => {
    let failed = 0;
    let named = 0;
    for (const count of [16, 24, 32])
      for (let seed = 1; seed <= 150; seed += 1) {
        const { normal } = chance(seed * 7 + count);
        const { verdict } = analysed(count, (k) => 1000 * k * INTERVAL_S * (driftPct / 100) + 0.45 * ALLOWED_MS * normal());
        if (verdict.outcome === 'clean') continue;
        failed += 1;
        if (verdict.reason === 'drift') named += 1;
      }
    expect(failed).toBeGreaterThan(60);
    expect(named / failed).toBeGreaterThanOrEqual(0.9);
  });

  it('of less than is allowed is never the reason', () => {
    for (const driftPct of [0.5, -0.5])
      for (let seed = 1; seed <= 100; seed += 1) {
        const { normal } = chance(seed);
        const played = (k: number) => 1000 * k * INTERVAL_S * (driftPct / 100) + 0.45 * ALLOWED_MS * normal();
        const { verdict, measures } = analysed(32, played);
        if (Math.abs(measures.driftPct ?? 0) < 1) expect(verdict.reason).not.toBe('drift');
      }
  });

  it('is not made out of unsteadiness: a player without one is hardly ever told of it', () => {
    let told = 0;
    for (let seed = 1; seed <= 400; seed += 1) {
      const { normal } = chance(seed + 5000);
      if (analysed(16, () => 1.4 * ALLOWED_MS * normal()).verdict.reason === 'drift') told += 1;
    }
    expect(told / 400).toBeLessThanOrEqual(0.05);
  });

  it('says how steady it was apart from that', () => {
    const { measures } = analysed(16, (k) => 1000 * k * INTERVAL_S * 0.011);
    expect(measures.spreadMs?.value).toBeGreaterThan(6);
    expect(measures.steadySpreadMs?.value).toBeLessThan(0.01);
    expect(measures.steadyAccuracyPct).toBe(100);
  });
});

describe('one note that is late', () => {
  it.each([61, -61])('by %i ms at 100 is one error, and the repetition has not come apart', (lateMs) => {
    const drill = drillOf(17);
    const plan = planRepetition({ drill, tempo: constantTempo(100), startS: 0 });
    const onsets = plan.notes.map(({ timeS, index }) => ({ timeS: timeS + (index === 8 ? lateMs / 1000 : 0), levelDb: -20 }));
    const { measures, verdict } = heard(onsets, drill, plan, 0.6);
    expect(measures).toMatchObject({ missed: 0, extra: 0 });
    expect(verdict).toMatchObject({ outcome: 'not-yet', reason: 'accuracy' });
  });
});

describe('few notes', () => {
  it.each([3, 4, 6])('do not fail by chance: %i of a player with half the allowed unsteadiness', (count) => {
    let failed = 0;
    for (let seed = 1; seed <= 400; seed += 1) {
      const { normal } = chance(seed + 100 * count);
      if (analysed(count, () => 0.5 * ALLOWED_MS * normal()).verdict.outcome === 'not-yet') failed += 1;
    }
    expect(failed / 400).toBeLessThanOrEqual(0.05);
  });

  it('of one or two are not judged while nothing is known of the delay', () => {
    expect(analysed(1, () => 240).verdict).toMatchObject({ outcome: 'not-judged', reason: 'few' });
  });
});

describe('hands', () => {
  it.each([20, 36, 60])('%i ms apart throughout are hands out of step, and nothing is missed or added', (apartMs) => {
    const drill = firstDrill(builtInPassage('hands-together') as Passage);
    const plan = planRepetition({ drill, tempo: constantTempo(80), startS: 0 });
    const onsets = plan.notes
      .flatMap(({ timeS, index }): Onset[] =>
        (drill.grid.events[index]?.notes ?? []).map(({ pitch, marks }, k) => ({
          timeS: timeS + (marks.hand === 'right' || k === 1 ? apartMs / 1000 : 0),
          levelDb: -20,
          pitch: pitch ? 60 + k : 60,
        })),
      )
      .sort((a, b) => a.timeS - b.timeS);
    const { measures } = heard(onsets, drill, plan);
    expect(measures).toMatchObject({ missed: 0, extra: 0 });
    expect(measures.chordSpreadMs).toBeCloseTo(apartMs, 0);
  });
});

describe('a stop', () => {
  /** 32 quarters at 120, with a stop of so many beats after the twelfth. */
  const stopped = (beats: number, leftOut: number) => {
    const notes = evenGridNotes({ tempoBpm: 120, notesPerBeat: 1, beats: 32, startS: 0 });
    const { normal } = chance(3);
    const onsets = notes
      .filter(({ index }) => index < 12 || index >= 12 + leftOut)
      .map(({ timeS, index }) => timeS + (index >= 12 ? beats * 0.5 : 0) + 0.004 * normal());
    return onsets.filter((timeS) => timeS < 16.3);
  };
  const measured = (onsetsS: readonly number[]) => {
    const drill = { ...drillOf(32) };
    const events = drill.grid.events.map((event, k) => ({ ...event, at: String(k), length: '1' }));
    const quarters: Drill = { ...drill, grid: { ...drill.grid, events, bars: 8 } };
    const plan = { notes: evenGridNotes({ tempoBpm: 120, notesPerBeat: 1, beats: 32, startS: 0 }) };
    return heard(
      onsetsS.map((timeS) => ({ timeS, levelDb: -20 })),
      quarters,
      plan,
    ).verdict;
  };

  it('of two beats in 32 quarters is a stop', () => {
    expect(measured(stopped(2, 0))).toMatchObject({ outcome: 'broken', reason: 'stop' });
  });

  it('is not made of one note left out', () => {
    expect(measured(stopped(0, 1)).reason).toBe('notes');
  });
});

describe('a jump', () => {
  const jumps = (byMs: number, seed: number) => {
    const { normal } = chance(seed + 900);
    return analysed(32, (k) => (k < 16 ? 0 : byMs) + 0.4 * ALLOWED_MS * normal());
  };

  it.each([25, -25])('of %s ms half way is said as one, from its note on, and not as a drag', (byMs) => {
    let named = 0;
    for (let seed = 1; seed <= 100; seed += 1) {
      const { verdict, measures } = jumps(byMs, seed);
      if (verdict.reason !== 'jump') continue;
      named += 1;
      expect(Math.abs((measures.jump?.note ?? 0) - 16)).toBeLessThanOrEqual(1);
      expect(describeReason(verdict.why, { noteNaming: 'british' })).toContain(byMs < 0 ? 'early' : 'late');
    }
    expect(named).toBeGreaterThanOrEqual(90);
  });

  it('is seen neither in a steady drag nor in unsteadiness', () => {
    let told = 0;
    for (let seed = 1; seed <= 200; seed += 1) {
      const { normal } = chance(seed + 3000);
      const drag = analysed(32, (k) => 1000 * k * INTERVAL_S * 0.02 + 0.45 * ALLOWED_MS * normal());
      const unsteady = analysed(32, () => 1.5 * ALLOWED_MS * normal());
      told += [drag, unsteady].filter(({ verdict }) => verdict.reason === 'jump').length;
    }
    expect(told).toBeLessThanOrEqual(4);
  });
});
