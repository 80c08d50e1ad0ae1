import { fromBase64 } from './base64';
import type { Layer } from './perceptron';

/** One layer as stored, in base64: a byte for each weight, each row with a scale of its own; scales and biases as 32-bit floats. */
export interface StoredByteLayer {
  inputs: number;
  outputs: number;
  weights: string;
  scales: string;
  biases: string;
}

const floats = (text: string): Float32Array => {
  const bytes = fromBase64(text);
  // Stored with the lower byte first, as every machine that browsers and Node run on has it.
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
};

/** Unpacks a stored layer. */
export const unpackByteLayer = ({ inputs, outputs, weights: packed, ...stored }: StoredByteLayer): Layer => {
  const bytes = fromBase64(packed);
  const scales = floats(stored.scales);
  const weights = Float32Array.from(
    { length: inputs * outputs },
    (_, n) => (((bytes[n] as number) << 24) >> 24) * (scales[Math.floor(n / inputs)] as number),
  );
  return { inputs, outputs, weights, biases: floats(stored.biases) };
};
