import { fromBase64 } from './base64';
import { floatRow, floatsInRow, kernel, padded, type Row } from './kernel';

/** One fully connected layer: `weights` row by row, a row of `inputs` weights for each of `outputs` units. */
export interface Layer {
  inputs: number;
  outputs: number;
  weights: Float32Array;
  biases: Float32Array;
}

/** A multilayer perceptron: rectified units in all layers but the last, which is linear. */
export type Perceptron = readonly Layer[];

/** One layer as stored: little-endian 32-bit floats in base64, the weights and then the biases. */
export interface StoredLayer {
  inputs: number;
  outputs: number;
  values: string;
}

/** The perceptron's outputs for an input vector; the returned array is new. */
export const runPerceptron = (layers: Perceptron, input: Float32Array): Float32Array => {
  let values = input;
  layers.forEach(({ inputs, outputs, weights, biases }, depth) => {
    const next = new Float32Array(outputs);
    for (let unit = 0; unit < outputs; unit += 1) {
      const row = unit * inputs;
      let sum = biases[unit] as number;
      for (let n = 0; n < inputs; n += 1) sum += (weights[row + n] as number) * (values[n] as number);
      next[unit] = depth < layers.length - 1 && sum < 0 ? 0 : sum;
    }
    values = next;
  });
  return values;
};

const SMALLEST_NORMAL = 2 ** -126;

/** Unpacks stored layers. */
export const unpackPerceptron = (stored: readonly StoredLayer[]): Perceptron =>
  stored.map(({ inputs, outputs, values }) => {
    const bytes = fromBase64(values);
    // Stored with the lower byte first, as every machine that browsers and Node run on has it.
    const floats = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length >> 2);
    // Numbers below the normal range, which training leaves behind, change nothing and cost ten times the time.
    for (let n = 0; n < floats.length; n += 1) if (Math.abs(floats[n] as number) < SMALLEST_NORMAL) floats[n] = 0;
    return { inputs, outputs, weights: floats.slice(0, inputs * outputs), biases: floats.slice(inputs * outputs) };
  });

/** A layer in the kernel's memory, for good, with a room for what comes out of it. */
export const loadLayer = ({ inputs, outputs, weights, biases }: Layer) => {
  const width = padded(inputs);
  const rows = new Float32Array(outputs * width);
  for (let unit = 0; unit < outputs; unit += 1) rows.set(weights.subarray(unit * inputs, (unit + 1) * inputs), unit * width);
  return { width, outputs, weights: floatsInRow(rows), biases: floatsInRow(biases), into: floatRow(outputs) };
};
export type LoadedLayer = ReturnType<typeof loadLayer>;

/** Runs a loaded layer over a row; gives the row that it wrote, the same one at every call. */
export const runLayer = ({ width, weights, biases, outputs, into }: LoadedLayer, input: Row, isRectified: boolean): Row => {
  kernel.layer(input.at, width, weights.at, biases.at, outputs, isRectified, into.at);
  return into;
};

/** The same as {@link runPerceptron}, several times as fast: the layers are put into the kernel's memory, for good. */
export const loadPerceptron = (layers: Perceptron): ((input: Float32Array) => Float32Array) => {
  const first = floatRow(layers[0]?.inputs ?? 0);
  const loaded = layers.map(loadLayer);
  return (input) => {
    first.values().set(input);
    let values = first;
    loaded.forEach((layer, depth) => {
      values = runLayer(layer, values, depth < loaded.length - 1);
    });
    return values.values().slice();
  };
};
