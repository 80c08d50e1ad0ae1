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
      // Four sums at a time keep the processor busier than one.
      let sum = biases[unit] as number;
      let second = 0;
      let third = 0;
      let fourth = 0;
      let n = 0;
      for (; n + 3 < inputs; n += 4) {
        sum += (weights[row + n] as number) * (values[n] as number);
        second += (weights[row + n + 1] as number) * (values[n + 1] as number);
        third += (weights[row + n + 2] as number) * (values[n + 2] as number);
        fourth += (weights[row + n + 3] as number) * (values[n + 3] as number);
      }
      for (; n < inputs; n += 1) sum += (weights[row + n] as number) * (values[n] as number);
      sum += second + third + fourth;
      next[unit] = depth < layers.length - 1 && sum < 0 ? 0 : sum;
    }
    values = next;
  });
  return values;
};

const BASE64 = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** Bytes of a base64 text without padding (RFC 4648), in plain JavaScript: core knows neither browser nor Node. */
const fromBase64 = (text: string): Uint8Array => {
  const bytes = new Uint8Array(Math.floor((text.length * 3) / 4));
  let bits = 0;
  let held = 0;
  let at = 0;
  for (const letter of text) {
    bits = (bits << 6) | BASE64.indexOf(letter);
    held += 6;
    if (held < 8) continue;
    held -= 8;
    bytes[at] = (bits >> held) & 255;
    at += 1;
    bits &= (1 << held) - 1;
  }
  return bytes;
};

/** Unpacks stored layers. */
export const unpackPerceptron = (stored: readonly StoredLayer[]): Perceptron =>
  stored.map(({ inputs, outputs, values }) => {
    const bytes = fromBase64(values);
    const view = new DataView(bytes.buffer);
    const floats = Float32Array.from({ length: bytes.length >> 2 }, (_, n) => view.getFloat32(4 * n, true));
    return { inputs, outputs, weights: floats.slice(0, inputs * outputs), biases: floats.slice(inputs * outputs) };
  });
