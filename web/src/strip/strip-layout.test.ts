import {
  type Exercise,
  READY_EXERCISES,
  type Repetition,
  readyExercise,
  TOLERANCE_PRESETS,
  toleranceWindowMs,
} from '@isochron/core';
import { describe, expect, it } from 'vitest';
import { extraXs, stripScale, strokesOf } from './strip-layout';

const exercise = readyExercise('five-steps') as Exercise;
const scale = stripScale(exercise, 1200);
const tolerance = TOLERANCE_PRESETS.secure;

/** A repetition at 120 bpm with these deviations (ms), null for missed notes; placement is their median. */
const repetition = (deviationsMs: readonly (number | null)[], placementMs = 0): Repetition =>
  ({
    index: 0,
    tempoBpm: 120,
    downbeatS: 10,
    notes: deviationsMs.map((deviationMs, index) => ({ index, deviationMs, expectedS: 0, onsetS: 0, levelDb: -20 })),
    extras: [],
    measures: { placementMs: { value: placementMs, low: null, high: null } },
  }) as unknown as Repetition;

const strokes = (deviations: readonly (number | null)[], placementMs = 0, calibrated = true) =>
  strokesOf(repetition(deviations, placementMs), exercise, scale, tolerance, calibrated);

const inTime = Array.from({ length: 17 }, () => 0);

describe('the strip', () => {
  it.each(READY_EXERCISES.map((one) => [one.title, one] as const))(
    'spaces the notes of %s by their notated position',
    (_title, one) => {
      const { beatX } = stripScale(one, 1000);
      const step = beatX(1) - beatX(0);
      expect(beatX(3) - beatX(2)).toBeCloseTo(step, 9);
      expect(step).toBeGreaterThan(0);
    },
  );

  it('keeps a stroke from ever reaching its neighbour', () => {
    const column = scale.beatX(0.25) - scale.beatX(0);
    expect(2 * scale.reachPx).toBeLessThan(column);
    expect(scale.bandPx).toBeLessThan(scale.reachPx);
    const [far] = strokes(inTime.with(0, 400));
    expect((far?.x ?? 0) - (far?.gridX ?? 0)).toBeCloseTo(scale.reachPx, 9);
  });

  it('puts early to the left and late to the right, the window ending where the band ends', () => {
    const windowMs = toleranceWindowMs(tolerance, 125);
    const [early, late, on, edge] = strokes([-20, 20, 3, windowMs]);
    expect(early).toMatchObject({ side: 'early' });
    expect(early?.x).toBeLessThan(early?.gridX ?? 0);
    expect(late).toMatchObject({ side: 'late' });
    expect(late?.x).toBeGreaterThan(late?.gridX ?? 0);
    expect(on?.side).toBe('on');
    expect((edge?.x ?? 0) - (edge?.gridX ?? 0)).toBeCloseTo(scale.bandPx, 9);
  });

  it('shows deviations from the repetition’s own average until the latency is known', () => {
    const late = inTime.map(() => 80);
    expect(strokes(late, 80, false).every((stroke) => stroke.side === 'on' && stroke.shownMs === 0)).toBe(true);
    expect(strokes(late, 80, true).every((stroke) => stroke.side === 'late')).toBe(true);
  });

  it('leaves a gap for a missed note', () => {
    expect(strokes(inTime.with(6, null as never))[6]).toMatchObject({ x: null, shownMs: null });
  });

  it('puts an extra note where it sounded', () => {
    const extra = { ...repetition(inTime), extras: [{ timeS: 10 + 0.5 * 1.125, levelDb: -20 }] };
    expect(extraXs(extra, scale)[0]).toBeCloseTo(scale.beatX(1.125), 9);
  });
});
