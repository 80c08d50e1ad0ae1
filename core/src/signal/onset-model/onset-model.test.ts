import { describe, expect, it } from 'vitest';
import { PLUCKED_STRING, STRUCK_BAR } from '../../player/instruments';
import { chance } from '../../stats/random';
import { bandCentresHz, createBandLevels } from '../band-levels';
import { unpackByteLayer } from '../byte-layer';
import { createOnsetDetector, detectOnsets } from '../detect-onsets';
import { floatRow, floatsInRow, kernel } from '../kernel';
import { mixInto } from '../mix';
import { spectrumOf } from '../spectrum';
import { createOnsetModelFrames, LEAD_STEPS, LONG_BANDS, SHORT_BANDS, STEP_LEVELS } from './frames';
import { createOnsetModel } from './onset-model';

const RATE = 48_000;

/** Notes of a made instrument at known times, over a little noise. */
const playing = (
  timesS: readonly number[],
  options: { rateHz?: number; seed?: number; peak?: number; isStruck?: boolean } = {},
) => {
  const { rateHz = RATE, seed = 1, peak = 0.5, isStruck = false } = options;
  const random = chance(seed);
  const sound = new Float32Array(Math.round(((timesS.at(-1) ?? 0) + 0.8) * rateHz));
  timesS.forEach((timeS, k) => {
    const hz = 220 * 2 ** (((k * 5) % 12) / 12);
    const instrument = k % 2 && !isStruck ? PLUCKED_STRING : STRUCK_BAR;
    const samples = instrument.note({ hz, lengthS: 0.3, sampleRateHz: rateHz, chance: random });
    mixInto(sound, 0, { frame: Math.round(timeS * rateHz), samples, gain: 0.5 });
  });
  const loudest = sound.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  return sound.map((value) => (value / loudest) * peak + peak * 2e-4 * random.normal());
};
const TIMES = Array.from({ length: 14 }, (_, k) => 0.5 + k * 0.21);

const stepsOf = (sound: Float32Array, block: number) => {
  const ear = createOnsetModel(RATE, null);
  const steps: number[][] = [];
  const drain = () => {
    for (let heard = ear.next(); heard; heard = ear.next()) steps.push([heard.at, heard.logOdds, heard.shiftS, heard.errorS]);
  };
  for (let at = 0; at < sound.length; at += block) {
    ear.push(sound.subarray(at, at + block));
    drain();
  }
  ear.finish();
  drain();
  return steps;
};

describe('the ear', () => {
  it('thinks the same however the sound is cut into blocks, and to the last step', () => {
    const sound = playing(TIMES.slice(0, 4));
    const whole = stepsOf(sound, sound.length);
    for (const block of [97, 512, 20_000]) expect(stepsOf(sound, block)).toEqual(whole);
    // One step every 10 ms, from a little before the sound to its end.
    expect(whole).toHaveLength(LEAD_STEPS + Math.ceil(sound.length / 480));
    whole.forEach(([at], k) => {
      expect(at).toBe((k - LEAD_STEPS) * 480);
    });
  });

  it('hears each note once, near where it is, and nothing between', () => {
    const found = detectOnsets(playing(TIMES), RATE).map(({ timeS }) => timeS);
    for (const timeS of TIMES) expect(Math.min(...found.map((one) => Math.abs(one - timeS)))).toBeLessThan(0.003);
    expect(found).toHaveLength(TIMES.length);
  });

  it('hears the same in a soft recording as in a loud one', () => {
    const loud = detectOnsets(playing(TIMES, { peak: 0.9, isStruck: true }), RATE);
    const soft = detectOnsets(playing(TIMES, { peak: 0.9 / 300, isStruck: true }), RATE);
    expect(soft.map(({ timeS }) => timeS.toFixed(3))).toEqual(loud.map(({ timeS }) => timeS.toFixed(3)));
  });

  it('hears a note with which a recording begins', () => {
    const [first] = detectOnsets(playing([0, 0.4, 0.8]), RATE);
    expect(first?.timeS ?? 9).toBeLessThan(0.005);
  });

  it('says nothing of silence, and ends with a sound of no length', () => {
    expect(detectOnsets(new Float32Array(RATE), RATE)).toEqual([]);
    expect(detectOnsets(new Float32Array(0), RATE)).toEqual([]);
  });

  it('knows a note within 100 ms of its sounding', () => {
    const sound = playing(TIMES);
    const detector = createOnsetDetector(RATE);
    for (let at = 0; at < sound.length; at += 256)
      for (const { timeS } of detector.push(sound.subarray(at, at + 256))) expect((at + 256) / RATE - timeS).toBeLessThan(0.1);
  });
});

describe('what the ear sees', () => {
  it('has the same bands at every sample rate, and about the same levels in them', () => {
    const rows = [44_100, 48_000, 96_000].map((rateHz) => {
      const frames = createOnsetModelFrames(rateHz);
      frames.push(playing([0.3, 0.7], { rateHz }));
      frames.finish();
      const levels = new Float32Array(STEP_LEVELS);
      const sums = new Float64Array(STEP_LEVELS);
      for (let count = 0; count < 60 && frames.next(levels); count += 1)
        levels.forEach((level, band) => {
          sums[band] = (sums[band] as number) + level / 60;
        });
      return sums;
    });
    const [one, two, three] = rows as [Float64Array, Float64Array, Float64Array];
    for (const other of [one, three]) {
      const difference = other.reduce((sum, level, band) => sum + Math.abs(level - (two[band] as number)), 0) / STEP_LEVELS;
      expect(difference).toBeLessThan(0.35);
    }
    expect(STEP_LEVELS).toBe(LONG_BANDS + 2 * SHORT_BANDS);
  });

  it('spaces its bands by pitch where the window can tell them apart, and evenly below', () => {
    const centres = bandCentresHz({ lowHz: 55, highHz: 4500, bandsPerOctave: 24, leastStepHz: 11.7 });
    const steps = centres.slice(1).map((hz, k) => hz - (centres[k] as number));
    expect(Math.min(...steps)).toBeCloseTo(11.7, 9);
    const [below, top] = centres.slice(-2) as [number, number];
    expect(Math.log2(top / below)).toBeCloseTo(1 / 24, 9);
    expect(centres[0]).toBe(55);
    expect(top).toBeLessThanOrEqual(4500);
  });

  it('has levels that are what their definition says, to within 0.001', () => {
    const { normal } = chance(9);
    const centresHz = [500, 1000, 2000, 4000];
    const bands = createBandLevels({ sampleRateHz: RATE, fftSize: 1024, centresHz, hopS: 0.005, peakShare: 1e-3 });
    const binHz = RATE / 1024;
    const background: number[] = [];
    let peak = 0;
    for (let frame = 0; frame < 6; frame += 1) {
      const samples = Float32Array.from({ length: 1024 }, () => 0.1 * (frame + 1) * normal());
      const levels = Float32Array.from(bands.next(samples).values());
      const powers = Float32Array.from(spectrumOf(1024).powers(samples).values());
      // Triangles that reach to their neighbours' centres, and from the outer ones one bin beyond.
      const amplitudes = centresHz.map((hz, k) => {
        const [low, high] = [centresHz[k - 1] ?? hz - binHz, centresHz[k + 1] ?? hz + binHz];
        let sum = 0;
        for (let bin = 1; bin < 512; bin += 1) {
          const own = bin * binHz;
          sum += (powers[bin] ?? 0) * Math.max(0, Math.min((own - low) / (hz - low), (high - own) / (high - hz)));
        }
        return Math.sqrt(sum);
      });
      peak = Math.max(peak * 10 ** ((-3 * 0.005) / 20), ...amplitudes);
      amplitudes.forEach((amplitude, band) => {
        const floor = frame === 0 ? 0.01 * amplitude : (background[band] ?? 0);
        const rising = Math.min(amplitude, floor * 10 ** ((40 * 0.005) / 20));
        background[band] = amplitude < floor ? 0.6 * floor + 0.4 * amplitude : rising;
        const reference = Math.max(3 * background[band], 1e-3 * peak, 3e-7);
        expect(Math.abs((levels[band] ?? 0) - Math.log2(1 + amplitude / reference))).toBeLessThan(1e-3);
      });
    }
  });

  it('takes a steady noise for nothing within a second, at any level', () => {
    for (const level of [1e-5, 0.1]) {
      const { normal } = chance(5);
      const view = { sampleRateHz: RATE, fftSize: 1024, centresHz: [500, 1000, 2000, 4000], hopS: 0.005, peakShare: 1e-3 };
      const bands = createBandLevels(view);
      const means: number[] = [];
      for (let frame = 0; frame < 400; frame += 1) {
        const levels = bands.next(Float32Array.from({ length: 1024 }, () => level * normal())).values();
        means.push(levels.reduce((sum, one) => sum + one, 0) / levels.length);
      }
      const mean = (from: number, to: number) => means.slice(from, to).reduce((sum, one) => sum + one, 0) / (to - from);
      expect(mean(0, 20)).toBeGreaterThan(2);
      expect(mean(300, 400)).toBeLessThan(0.9);
    }
  });

  it('sees no rise where a tone wavers by a band, and a rise where a tone begins', () => {
    const [now, earlier, into] = [floatsInRow(new Float32Array(12)), floatRow(20), floatRow(12)];
    const rise = (before: readonly number[], after: readonly number[]) => {
      now.values().set(after);
      earlier.values().fill(0);
      earlier.values().set(before, 4);
      kernel.rises(now.at, earlier.at + 16, 12, into.at);
      return [...into.values()];
    };
    const tone = (band: number) => Array.from({ length: 12 }, (_, k) => (k === band ? 5 : 0));
    expect(rise(tone(5), tone(6))).toEqual(tone(-1));
    expect(rise(tone(5), tone(4))).toEqual(tone(-1));
    expect(rise(tone(5), tone(7))).toEqual(tone(7));
    expect(rise(tone(0), tone(0))).toEqual(tone(-1));
    expect(rise(tone(3), tone(11))).toEqual(tone(11));
  });
});

it('a stored layer comes back as it was written, to the precision of a byte', () => {
  const base64 = (numbers: Float32Array | Int8Array) => Buffer.from(numbers.buffer).toString('base64');
  const layer = unpackByteLayer({
    inputs: 3,
    outputs: 2,
    weights: base64(Int8Array.of(127, -127, 0, 1, -64, 100)),
    scales: base64(Float32Array.of(0.01, 0.5)),
    biases: base64(Float32Array.of(-2, 3.5)),
  });
  expect([...layer.weights].map((one) => Number(one.toFixed(4)))).toEqual([1.27, -1.27, 0, 0.5, -32, 50]);
  expect([...layer.biases]).toEqual([-2, 3.5]);
});
