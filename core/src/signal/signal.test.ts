import { describe, expect, it } from 'vitest';
import { chance } from '../player/random';
import { changePoint } from './change-point';
import { countClipped } from './clipping';
import { findDropouts } from './dropout';
import { applyFilterbank, createFilterbank } from './filterbank';
import { burg, predictionError } from './linear-prediction';
import { createSpectrum } from './spectrum';

const sine = (hz: number, length: number, sampleRateHz = 48_000) =>
  Float32Array.from({ length }, (_, n) => Math.sin((2 * Math.PI * hz * n) / sampleRateHz));

describe('the spectrum', () => {
  it('is the discrete Fourier transform of the windowed frame', () => {
    const size = 64;
    const { normal } = chance(3);
    const frame = Float32Array.from({ length: size }, normal);
    const magnitudes = new Float64Array(size / 2);
    createSpectrum(size).magnitudes(frame, magnitudes);
    magnitudes.forEach((magnitude, bin) => {
      // The transform by its definition.
      let re = 0;
      let im = 0;
      frame.forEach((value, n) => {
        const windowed = value * (0.5 - 0.5 * Math.cos((2 * Math.PI * n) / size));
        re += windowed * Math.cos((2 * Math.PI * bin * n) / size);
        im -= windowed * Math.sin((2 * Math.PI * bin * n) / size);
      });
      expect(magnitude).toBeCloseTo((Math.hypot(re, im) * 4) / size, 9);
    });
  });

  it('reads a full-scale sine as 1 at its bin', () => {
    const magnitudes = new Float64Array(512);
    createSpectrum(1024).magnitudes(sine(48_000 * (40 / 1024), 1024), magnitudes);
    expect(magnitudes[40]).toBeCloseTo(1, 6);
    expect(magnitudes[60]).toBeLessThan(1e-6);
  });
});

describe('the filterbank', () => {
  it('puts a tone into the band that holds its pitch', () => {
    const options = { sampleRateHz: 48_000, fftSize: 1024, bandsPerOctave: 12, lowHz: 60, highHz: 16_000 };
    const bank = createFilterbank(options);
    const magnitudes = new Float64Array(512);
    createSpectrum(1024).magnitudes(sine(3000, 1024), magnitudes);
    const bands = new Float64Array(bank.length);
    applyFilterbank(bank, magnitudes, bands);
    const loudest = bands.indexOf(Math.max(...bands));
    const from = (bank[loudest]?.from ?? 0) * (48_000 / 1024);
    const to = ((bank[loudest]?.from ?? 0) + (bank[loudest]?.weights.length ?? 0)) * (48_000 / 1024);
    expect(from).toBeLessThanOrEqual(3000);
    expect(to).toBeGreaterThanOrEqual(3000);
  });
});

describe('linear prediction', () => {
  it('finds the coefficients of a known autoregressive process', () => {
    const { normal } = chance(5);
    const samples = new Float64Array(8000);
    for (let n = 2; n < samples.length; n += 1) {
      samples[n] = 1.5 * (samples[n - 1] as number) - 0.8 * (samples[n - 2] as number) + normal();
    }
    const coefficients = burg(samples, 2);
    expect(coefficients[1]).toBeCloseTo(-1.5, 1);
    expect(coefficients[2]).toBeCloseTo(0.8, 1);
  });

  it('leaves nothing of a ringing tone', () => {
    const tone = Float64Array.from(sine(440, 2000));
    const error = predictionError(tone, burg(tone, 12));
    const power = (values: Float64Array) => values.reduce((sum, value) => sum + value * value, 0) / values.length;
    expect(power(error)).toBeLessThan(1e-6 * power(tone));
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
    expect(findDropouts(broken)).toEqual([1000]);
  });

  it('are not seen in whole sound, in silence, or at the ends', () => {
    expect(findDropouts(sound)).toEqual([]);
    expect(findDropouts(new Float32Array(4800))).toEqual([]);
    const quietStart = Float32Array.from(sound);
    quietStart.fill(0, 0, 500);
    expect(findDropouts(quietStart)).toEqual([]);
  });
});

it('clipping counts runs at full scale, not single peaks', () => {
  expect(countClipped(Float32Array.of(0.5, 1, 0.9, 1, 1, 1, 1, 0.2, -1, -1, -1))).toBe(2);
  expect(countClipped(sine(100, 4800).map((value) => 0.9 * value))).toBe(0);
});
