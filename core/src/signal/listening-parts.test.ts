import { describe, expect, it } from 'vitest';
import { PLUCKED_STRING, STRUCK_BAR } from '../player/instruments';
import { chance } from '../stats/random';
import { clickWaveform } from '../time/click';
import { clickKinds, likeliestKind } from './click-kinds';
import { detectOnsetsBesideClicks } from './click-onsets';
import { learnClickPath, type ScheduledClick, subtractClicks } from './click-removal';
import { mixInto } from './mix';
import { runPerceptron, unpackPerceptron } from './perceptron';
import { loudestPower, powerDb, powerOf } from './power';
import { refineOnset } from './refine-onset';
import { createSampleBuffer } from './sample-buffer';

const RATE = 48_000;

/** A note of an instrument in quiet noise, beginning at a sample. */
const noteAt = (frame: number, instrument = PLUCKED_STRING, seed = 2): Float32Array => {
  const random = chance(seed);
  const sound = Float32Array.from({ length: RATE }, () => 0.0006 * random.normal());
  mixInto(sound, 0, {
    frame,
    samples: instrument.note({ hz: 330, lengthS: 0.5, sampleRateHz: RATE, chance: random }),
    gain: 0.4,
  });
  return sound;
};

describe('the perceptron', () => {
  it('computes a network worked by hand', () => {
    // Hidden: max(0, 1·x − 2·y + 0.5) and max(0, 3·y − 1); output: 2·h1 − 4·h2 + 0.25.
    const layers = [
      { inputs: 2, outputs: 2, weights: Float32Array.of(1, -2, 0, 3), biases: Float32Array.of(0.5, -1) },
      { inputs: 2, outputs: 1, weights: Float32Array.of(2, -4), biases: Float32Array.of(0.25) },
    ];
    expect(runPerceptron(layers, Float32Array.of(2, 0.5))[0]).toBeCloseTo(2 * 1.5 - 4 * 0.5 + 0.25, 6);
    expect(runPerceptron(layers, Float32Array.of(-3, 0))[0]).toBeCloseTo(0.25, 6);
  });

  it('unpacks stored weights and biases as they were', () => {
    const values = Float32Array.of(1.5, -2.25, 0.125, 1e-7, 3e6, -0.5);
    const stored = Buffer.from(values.buffer).toString('base64').replaceAll('=', '');
    const [layer] = unpackPerceptron([{ inputs: 2, outputs: 2, values: stored }]);
    expect([...(layer?.weights ?? [])]).toEqual([...values.slice(0, 4)]);
    expect([...(layer?.biases ?? [])]).toEqual([...values.slice(4)]);
  });
});

describe('the sample buffer', () => {
  it('gives any recent stretch, silence before the beginning and a mirror past the end', () => {
    const buffer = createSampleBuffer(8);
    buffer.append(Float32Array.of(1, 2, 3));
    expect([...buffer.view(-2, 4)]).toEqual([0, 0, 1, 2]);
    expect([...buffer.view(1, 4)]).toEqual([2, 3, 2, 1]);
    for (let k = 4; k <= 100; k += 1) buffer.append(Float32Array.of(k));
    expect(buffer.end()).toBe(100);
    expect([...buffer.view(92, 8)]).toEqual([93, 94, 95, 96, 97, 98, 99, 100]);
  });

  it('takes a block larger than itself', () => {
    const buffer = createSampleBuffer(4);
    buffer.append(Float32Array.from({ length: 1000 }, (_, k) => k));
    expect([...buffer.view(500, 3)]).toEqual([500, 501, 502]);
  });
});

describe('power', () => {
  it('is the mean square, and 0 dB for a full-scale square wave', () => {
    expect(powerOf(Float32Array.of(1, -1, 1, -1))).toBe(1);
    expect(powerDb(1)).toBeCloseTo(0, 9);
    expect(powerDb(0)).toBeCloseTo(-120, 6);
    expect(powerOf(new Float32Array(0))).toBe(0);
    expect(loudestPower(Float32Array.of(0, 0, 3, 3, 1, 1), 2)).toBe(9);
  });
});

describe('refinement', () => {
  it.each([PLUCKED_STRING, STRUCK_BAR])('finds the first sample of a $name from up to 8 ms away', (instrument) => {
    for (const away of [-8, -3, 0, 3, 8]) {
      const onset = 24_000;
      const found = refineOnset(noteAt(onset, instrument), onset + Math.round((away / 1000) * RATE), RATE, null);
      expect(Math.abs(found.at - onset) / RATE).toBeLessThan(0.0012);
    }
  });

  it('is not misled by a note that still rings', () => {
    const sound = noteAt(12_000, STRUCK_BAR);
    const random = chance(6);
    const second = STRUCK_BAR.note({ hz: 392, lengthS: 0.5, sampleRateHz: RATE, chance: random });
    mixInto(sound, 0, { frame: 24_000, samples: second, gain: 0.3 });
    expect(Math.abs(refineOnset(sound, 24_150, RATE, 'struck').at - 24_000) / RATE).toBeLessThan(0.0012);
  });
});

describe('clicks of several kinds', () => {
  const kinds = ['bar', 'beat', 'beat', 'beat', 'bar', 'beat', 'beat', 'beat'] as const;
  const frames = kinds.map((_, k) => 9600 + k * 24_000);
  const delay = 700;
  const recording = (options: { noteFrames?: number[]; noise?: number } = {}) => {
    const { noteFrames = [], noise = 0.0005 } = options;
    const random = chance(3);
    const sound = Float32Array.from({ length: 9600 + 9 * 24_000 }, () => noise * random.normal());
    kinds.forEach((kind, k) => {
      mixInto(sound, 0, { frame: (frames[k] ?? 0) + delay, samples: clickWaveform(kind, RATE), gain: 0.5 });
    });
    for (const frame of noteFrames) {
      const note = PLUCKED_STRING.note({ hz: 220, lengthS: 0.3, sampleRateHz: RATE, chance: random });
      mixInto(sound, 0, { frame, samples: note, gain: 0.5 });
    }
    return sound;
  };

  it('are told apart by their waveform', () => {
    const names = clickKinds(
      recording(),
      frames.map((frame) => frame + delay),
      1440,
    );
    expect(names).toEqual(['a', 'b', 'b', 'b', 'a', 'b', 'b', 'b']);
  });

  it('leave nothing behind when they are taken out', () => {
    const sound = recording();
    const clicks = frames.map((frame, k): ScheduledClick => ({ frame, kind: kinds[k] as string }));
    const path = learnClickPath(sound, clicks.slice(0, 5), RATE);
    expect(path.residueDb).toBeLessThan(-55);
    for (const { frame, kind } of clicks) expect(likeliestKind(sound, frame, path.templates, delay + 1440)).toBe(kind);
    subtractClicks(sound, 0, clicks, path);
    expect(powerDb(loudestPower(sound.subarray(frames[5] ?? 0), 240))).toBeLessThan(-50);
  });

  it('are never reported, and the notes keep their own times, even the one that falls on a click', () => {
    // Notes from the fifth click on, 12 ms before or after theirs: on top of the sounding click.
    const noteFrames = [4, 5, 6, 7].flatMap((k) => [(frames[k] ?? 0) + (k % 2 ? 576 : -576), (frames[k] ?? 0) + 12_000]);
    const sound = recording({ noteFrames });
    const found = detectOnsetsBesideClicks(
      sound,
      RATE,
      frames.map((frame) => frame / RATE),
    );
    const heard = found.onsets.map((onset) => onset.timeS * RATE);
    expect(heard).toHaveLength(noteFrames.length);
    noteFrames
      .sort((a, b) => a - b)
      .forEach((frame, k) => {
        expect(Math.abs((heard[k] ?? 0) - frame) / RATE).toBeLessThan(0.002);
      });
    expect(found.clicksRemain).toBe(false);
  });
});
