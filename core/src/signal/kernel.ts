import { fromBase64 } from './base64';
import { KERNEL_MODULE } from './kernel-module';

/** The loops of core/kernel/kernel.ts; pointers are byte offsets in its memory. */
interface Kernel {
  memory: WebAssembly.Memory;
  allocate(bytes: number): number;
  hannPowers(spectrum: number, padded: number, scale: number, powers: number): void;
  bandAmplitudes(
    powers: number,
    firstBin: number,
    firstWeight: number,
    weights: number,
    bands: number,
    amplitudes: number,
  ): void;
  greatest(row: number, padded: number): number;
  compress(
    amplitudes: number,
    background: number,
    padded: number,
    rise: number,
    share: number,
    least: number,
    levels: number,
  ): void;
  layer(
    input: number,
    padded: number,
    weights: number,
    biases: number,
    outputs: number,
    isRectified: boolean,
    into: number,
  ): void;
  burg(forward: number, backward: number, count: number, order: number, coefficients: number): void;
  filter(sound: number, taps: number, tapCount: number, count: number, into: number): void;
  rises(now: number, earlier: number, padded: number, into: number): void;
  decimate(sound: number, taps: number, padded: number, factor: number, count: number, into: number): void;
}

const { instance } = await WebAssembly.instantiate(fromBase64(KERNEL_MODULE), { env: { abort: () => undefined } });

/** The compiled loops. */
export const kernel = instance.exports as Kernel;

/** Lengths of rows that are worked on four numbers at a time. */
export const padded = (count: number): number => 4 * Math.ceil(count / 4);

/** A row of numbers in the kernel's memory, never given back: to be made once and used again. */
export interface Row<Numbers extends Float32Array | Float64Array | Int32Array = Float32Array> {
  /** Where it begins, for the kernel. */
  at: number;
  /** The numbers, to be read or written before the next row is made. */
  values(): Numbers;
}

/** Grows with every allocation, which may have moved the memory. */
let age = 0;

const room = <Numbers extends Float32Array | Float64Array | Int32Array>(
  bytes: number,
  view: (buffer: ArrayBuffer, at: number) => Numbers,
): Row<Numbers> => {
  const at = kernel.allocate(bytes);
  age += 1;
  let values = view(kernel.memory.buffer, at);
  let seen = age;
  return {
    at,
    values() {
      if (seen !== age) {
        values = view(kernel.memory.buffer, at);
        seen = age;
      }
      return values;
    },
  };
};

/** A row of `count` 32-bit floats, zero at first; what lies after it up to a length that divides by four is zero as well. */
export const floatRow = (count: number): Row => room(4 * padded(count), (buffer, at) => new Float32Array(buffer, at, count));

/** A row of `count` 64-bit floats, zero at first. */
export const doubleRow = (count: number): Row<Float64Array> =>
  room(8 * count, (buffer, at) => new Float64Array(buffer, at, count));

/** A row that holds these floats. */
export const floatsInRow = (numbers: ArrayLike<number>): Row => {
  const row = floatRow(numbers.length);
  row.values().set(numbers);
  return row;
};

/** A row that holds these integers. */
export const integersInRow = (numbers: ArrayLike<number>): Row<Int32Array> => {
  const row = room(4 * numbers.length, (buffer, at) => new Int32Array(buffer, at, numbers.length));
  row.values().set(numbers);
  return row;
};
