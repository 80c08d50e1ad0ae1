import { describe, expect, it } from 'vitest';
import { chance } from '../stats/random';
import { changePoint } from './change-point';
import { countClipped } from './clipping';
import { createDecimator } from './decimate';
import { createDropoutWatch } from './dropout';
import { burg, predictionError } from './linear-prediction';
import { powerOf } from './power';
import { spectrumOf } from './spectrum';

const sine = (hz: number, length: number, sampleRateHz = 48_000) =>
  Float32Array.from({ length }, (_, n) => Math.sin((2 * Math.PI * hz * n) / sampleRateHz));

describe('the spectrum', () => {
  it('is the discrete Fourier transform of the windowed frame', () => {
    const size = 64;
    const { normal } = chance(3);
    const frame = Float32Array.from({ length: size + 5 }, normal);
    const powers = spectrumOf(size).powers(frame, 5).values();
    expect(powers).toHaveLength(size / 2);
    powers.forEach((power, bin) => {
      // The transform by its definition.
      let re = 0;
      let im = 0;
      frame.subarray(5).forEach((value, n) => {
        const windowed = value * (0.5 - 0.5 * Math.cos((2 * Math.PI * n) / size));
        re += windowed * Math.cos((2 * Math.PI * bin * n) / size);
        im -= windowed * Math.sin((2 * Math.PI * bin * n) / size);
      });
      expect(power).toBeCloseTo((re * re + im * im) * (4 / size) ** 2, 6);
    });
  });

  it('reads a full-scale sine as 1 at its bin', () => {
    const powers = spectrumOf(1024)
      .powers(sine(48_000 * (40 / 1024), 1024))
      .values();
    expect(powers[40]).toBeCloseTo(1, 5);
    expect(powers[60]).toBeLessThan(1e-9);
  });

  it('refuses a size that has no transform, in words', () => {
    expect(() => spectrumOf(1000)).toThrow(/power of two/);
  });
});

describe('the decimator', () => {
  it('keeps what the lower rate can carry, in place, and takes away what it cannot', () => {
    const push = (hz: number) => {
      const sound = sine(hz, 9600);
      const decimator = createDecimator(4);
      return [...decimator.push(sound.subarray(0, 1001)), ...decimator.push(sound.subarray(1001))];
    };
    const low = push(440);
    low.slice(50, 2000).forEach((value, k) => {
      expect(value).toBeCloseTo(Math.sin((2 * Math.PI * 440 * (k + 50) * 4) / 48_000), 2);
    });
    expect(Math.max(...push(9000).slice(50, 2000).map(Math.abs))).toBeLessThan(0.05);
  });
});

describe('linear prediction', () => {
  it('finds the coefficients of a known autoregressive process', () => {
    const { normal } = chance(5);
    const samples = new Float32Array(8000);
    for (let n = 2; n < samples.length; n += 1) {
      samples[n] = 1.5 * (samples[n - 1] as number) - 0.8 * (samples[n - 2] as number) + normal();
    }
    const coefficients = burg(samples, 2);
    expect(coefficients[1]).toBeCloseTo(-1.5, 1);
    expect(coefficients[2]).toBeCloseTo(0.8, 1);
  });

  it('leaves nothing of a ringing tone', () => {
    const tone = sine(440, 2000);
    const error = predictionError(tone, burg(tone, 12));
    expect(powerOf(error)).toBeLessThan(1e-6 * powerOf(tone));
  });
});

describe('the change point', () => {
  it('is the sample where the variance changes', () => {
    for (let seed = 1; seed < 20; seed += 1) {
      const { normal } = chance(seed);
      const samples = Float64Array.from({ length: 1000 }, (_, n) => (n < 400 ? 0.05 : 1) * normal());
      expect(Math.abs(changePoint(samples, 20) - 400)).toBeLessThanOrEqual(4);
    }
  });
});

describe('dropouts', () => {
  const { normal } = chance(6);
  const sound = Float32Array.from({ length: 4800 }, (_, n) => 0.3 * Math.sin(n / 7) + 0.01 * normal());

  it('are found where a sound breaks off into zeros and comes back', () => {
    const broken = Float32Array.from(sound);
    broken.fill(0, 1000, 1128);
    expect(createDropoutWatch()(broken)).toEqual([1000]);
    // However the sound is cut into blocks.
    const watch = createDropoutWatch();
    const found = [];
    for (let at = 0; at < broken.length; at += 100) found.push(...watch(broken.subarray(at, at + 100)));
    expect(found).toEqual([1000]);
  });

  it('are not seen in whole sound, in silence, or at the ends', () => {
    expect(createDropoutWatch()(sound)).toEqual([]);
    expect(createDropoutWatch()(new Float32Array(4800))).toEqual([]);
    const quietStart = Float32Array.from(sound);
    quietStart.fill(0, 0, 500);
    expect(createDropoutWatch()(quietStart)).toEqual([]);
  });
});

it('clipping counts runs at full scale, not single peaks', () => {
  expect(countClipped(Float32Array.of(0.5, 1, 0.9, 1, 1, 1, 1, 0.2, -1, -1, -1))).toBe(2);
  expect(countClipped(sine(100, 4800).map((value) => 0.9 * value))).toBe(0);
});
