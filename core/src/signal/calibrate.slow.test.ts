import { describe, expect, it } from 'vitest';
import { chance } from '../stats/random';
import { CALIBRATION, calibrate, calibrationBurst } from './calibrate';
import { mixInto } from './mix';

const RATE = 48_000;
const FRAMES = Array.from({ length: CALIBRATION.bursts }, (_, k) =>
  Math.round((CALIBRATION.firstS + k * CALIBRATION.everyS) * RATE),
);

/** A loopback: each burst comes back after a delay, through a room and noise. */
const loopback = (options: { delayS: (k: number) => number; gain?: number; noise?: number; seed?: number }) => {
  const { delayS, gain = 0.3, noise = 0.002, seed = 1 } = options;
  const { normal } = chance(seed);
  const sound = new Float32Array(Math.round((CALIBRATION.firstS + CALIBRATION.bursts * CALIBRATION.everyS + 0.5) * RATE));
  FRAMES.forEach((frame, k) => {
    const at = frame + Math.round(delayS(k) * RATE);
    mixInto(sound, 0, { frame: at, samples: calibrationBurst(RATE), gain });
    mixInto(sound, 0, { frame: at + 180, samples: calibrationBurst(RATE), gain: -0.3 * gain });
  });
  return sound.map((value) => value + noise * normal());
};

describe('a latency calibration', () => {
  it.each([0.003, 0.037, 0.21])('finds a delay of %f s to the sample, in noise and a reflection', (delay) => {
    const result = calibrate(loopback({ delayS: () => delay }), FRAMES, RATE);
    expect(result).toMatchObject({ ok: true, found: CALIBRATION.bursts });
    if (result.ok) expect(Math.abs(result.latencyS - delay)).toBeLessThanOrEqual(1.01 / RATE);
  });

  it('finds it upside down, as some inputs are wired', () => {
    const result = calibrate(
      loopback({ delayS: () => 0.02 }).map((value) => -value),
      FRAMES,
      RATE,
    );
    expect(result).toMatchObject({ ok: true });
  });

  it.each([
    ['silence', new Float32Array(4 * RATE), /no sound at all/],
    ['not-found', loopback({ delayS: () => 0.02, gain: 0 }), /not heard clearly/],
    ['clipped', loopback({ delayS: () => 0.02 }).map((value) => Math.max(-1, Math.min(1, 40 * value))), /limit/],
    ['unsteady', loopback({ delayS: (k) => 0.05 + 0.002 * k }), /not the same from burst to burst/],
  ] as const)('refuses with a reason: %s', (reason, sound, sentence) => {
    const result = calibrate(sound, FRAMES, RATE);
    expect(result).toMatchObject({ ok: false, reason });
    if (!result.ok) expect(result.sentence).toMatch(sentence);
  });

  it('forgives one stray burst', () => {
    const result = calibrate(loopback({ delayS: (k) => (k === 3 ? 0.1 : 0.03) }), FRAMES, RATE);
    expect(result).toMatchObject({ ok: true });
    if (result.ok) expect(result.latencyS).toBeCloseTo(0.03, 4);
  });
});
