import { DEFAULT_SETTINGS } from '@isochron/core/schema';
import { describe, expect, it } from 'vitest';
import { calibrationOf } from './devices';

const measured = { latencyS: 0.04, spreadMs: 0.1, measuredAt: '2026-03-01T18:00:00.000Z' };
const settings = { ...DEFAULT_SETTINGS, calibrations: [{ ...measured, input: 'desk microphone', output: 'headphones' }] };

describe('a calibration', () => {
  it('holds for the pair of devices it was measured with', () => {
    expect(calibrationOf(settings, 'desk microphone', 'headphones')?.latencyS).toBe(0.04);
  });

  it.each([
    ['another microphone', 'headphones'],
    ['desk microphone', 'loudspeakers'],
    ['virtual loopback', 'headphones'],
  ])('does not hold for %s with %s', (input, output) => {
    expect(calibrationOf(settings, input, output)).toBeNull();
  });
});
