import { describe, expect, it } from 'vitest';
import type { Measures } from '../schema/measures';
import { TOLERANCE_PRESETS, ToleranceSchema } from '../schema/tolerance';
import { describeReason } from '../words/describe-reason';
import { judge } from './judge';
import { type Judged, unevennessLimitPct } from './judged';
import { toleranceWindowMs } from './tolerance-window';

const figure = (value: number) => ({ value, low: null, high: null });

const PERFECT: Measures = {
  placementMs: figure(0),
  spreadMs: figure(1),
  robustSpreadMs: 1,
  driftMsPerBeat: 0,
  driftPct: 0,
  unevennessPct: figure(1),
  unevennessMs: figure(1),
  npvi: 1,
  accuracyPct: 100,
  levelSpreadDb: 1,
  accentContrastDb: null,
  missed: 0,
  extra: 0,
  hesitations: 0,
  stops: 0,
};

const judged = (measures: Partial<Measures>, rest: Partial<Judged> = {}): Judged => ({
  measures: { ...PERFECT, ...measures },
  tolerance: TOLERANCE_PRESETS.secure,
  noteCount: 16,
  windowMs: 12.5,
  intervalMs: 125,
  isMixed: false,
  asksAccents: false,
  calibrated: false,
  ...rest,
});

describe('a verdict', () => {
  it('is clean where nothing fails', () => {
    expect(judge(judged({}))).toMatchObject({ outcome: 'clean', reason: 'none' });
  });

  it.each([
    ['stop', { stops: 1 }, 'broken'],
    ['broken', { missed: 2 }, 'broken'],
    ['notes', { extra: 1 }, 'not-yet'],
    ['accuracy', { accuracyPct: 80 }, 'not-yet'],
    ['accuracy', { accuracyPct: 93.75 }, 'close'],
    ['spread', { spreadMs: figure(7) }, 'close'],
    ['spread', { spreadMs: figure(9) }, 'not-yet'],
    ['unevenness', { unevennessPct: figure(8) }, 'close'],
    ['drift', { driftPct: -1.2 }, 'close'],
    ['drift', { driftPct: 2 }, 'not-yet'],
  ] as const)('names %s', (reason, measures, outcome) => {
    const verdict = judge(judged(measures));
    expect(verdict).toMatchObject({ reason, outcome });
    expect(describeReason(verdict.why, { noteNaming: 'british' })).toMatch(/\.$/);
  });

  it('leaves out the checks that a drill does not ask for', () => {
    expect(judge(judged({ driftPct: 2 }), ['drift'])).toMatchObject({ outcome: 'clean' });
    expect(judge(judged({ driftPct: 2, extra: 1 }), ['drift'])).toMatchObject({ reason: 'notes' });
  });

  it('gives the first failing check as its reason', () => {
    expect(judge(judged({ spreadMs: figure(20), driftPct: 5, accuracyPct: 50 })).reason).toBe('accuracy');
  });

  it('is close only where nothing fails by a third', () => {
    expect(judge(judged({ spreadMs: figure(7), driftPct: 4 })).outcome).toBe('not-yet');
  });

  it('lets placement fail no one before calibration, or unasked', () => {
    const far = { placementMs: figure(80) };
    const asked = { ...TOLERANCE_PRESETS.secure, placementCounts: true };
    expect(judge(judged(far)).outcome).toBe('clean');
    expect(judge(judged(far, { tolerance: asked })).outcome).toBe('clean');
    expect(judge(judged(far, { tolerance: asked, calibrated: true })).reason).toBe('placement');
  });

  it('asks for accents only where the exercise does', () => {
    expect(judge(judged({ accentContrastDb: 0.5 })).outcome).toBe('clean');
    expect(judge(judged({ accentContrastDb: 0.5 }, { asksAccents: true })).reason).toBe('accents');
  });
});

describe('the tolerance', () => {
  it('is a share of the interval with a floor', () => {
    expect(toleranceWindowMs(TOLERANCE_PRESETS.secure, 250)).toBe(25);
    expect(toleranceWindowMs(TOLERANCE_PRESETS.secure, 60)).toBe(12);
    expect(unevennessLimitPct(judged({}))).toBeCloseTo(7.07, 2);
  });

  it.each(Object.values(TOLERANCE_PRESETS))('of preset $preset asks nothing finer than ears hear', (tolerance) => {
    // Friberg & Sundberg, JASA 98 (1995): about 6 ms below 240 ms, 2.5 % of the interval above.
    for (const intervalMs of [60, 100, 240, 500, 1000]) {
      expect(toleranceWindowMs(tolerance, intervalMs)).toBeGreaterThanOrEqual(intervalMs <= 240 ? 6 : 0.025 * intervalMs);
    }
    expect(ToleranceSchema.safeParse(tolerance).success).toBe(true);
  });
});
