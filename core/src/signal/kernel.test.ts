import { describe, expect, it } from 'vitest';
import { chance } from '../stats/random';
import { createDecimator } from './decimate';
import { floatsInRow, padded } from './kernel';
import { KERNEL_MODULE } from './kernel-module';
import { loadPerceptron, runPerceptron } from './perceptron';

describe('the kernel', () => {
  it('is what its source compiles to: `npm run build:kernel` brings it up to date', async () => {
    const { compileKernel } = await import(new URL('../../../scripts/build-kernel.mjs', import.meta.url).href);
    expect(await compileKernel()).toBe(KERNEL_MODULE);
  });

  it('keeps its rows where they are while its memory grows', () => {
    const row = floatsInRow([1, 2, 3]);
    floatsInRow(new Float32Array(1_000_000));
    floatsInRow([9]);
    expect([...row.values()]).toEqual([1, 2, 3]);
    expect(row.at % 16).toBe(0);
    expect([0, 1, 4, 5].map(padded)).toEqual([0, 4, 4, 8]);
  });

  it.each([3, 4, 8, 37, 241])('runs a perceptron of %s inputs as plain code does', (inputs) => {
    const { normal } = chance(inputs);
    const floats = (length: number) => Float32Array.from({ length }, normal);
    const layers = [
      { inputs, outputs: 5, weights: floats(5 * inputs), biases: floats(5) },
      { inputs: 5, outputs: 2, weights: floats(10), biases: floats(2) },
    ];
    const run = loadPerceptron(layers);
    for (let k = 0; k < 20; k += 1) {
      const input = floats(inputs);
      const outputs = run(input);
      runPerceptron(layers, input).forEach((value, n) => {
        expect(outputs[n]).toBeCloseTo(value, 3);
      });
    }
  });

  it('decimates a sound the same however it is cut', () => {
    const { normal, uniform } = chance(4);
    const sound = Float32Array.from({ length: 20_000 }, normal);
    const whole = Float32Array.from(createDecimator(4).push(sound));
    const decimator = createDecimator(4);
    const pieces: number[] = [];
    for (let at = 0; at < sound.length; ) {
      const length = 1 + Math.floor(9000 * uniform() ** 3);
      pieces.push(...decimator.push(sound.subarray(at, at + length)));
      at += length;
    }
    expect(Float32Array.from(pieces)).toEqual(whole);
  });
});
