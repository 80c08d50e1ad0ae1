import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { StoredByteLayer } from '../../core/src/signal/byte-layer';

/** A layer as it is trained. */
export interface TrainedLayer {
  inputs: number;
  outputs: number;
  weights: number[];
  biases: number[];
}

const base64 = (numbers: Float32Array | Int8Array) =>
  Buffer.from(numbers.buffer, numbers.byteOffset, numbers.byteLength).toString('base64').replaceAll('=', '');

const pack = ({ inputs, outputs, weights, biases }: TrainedLayer): StoredByteLayer => {
  const scales = Float32Array.from({ length: outputs }, (_, unit) => {
    const row = weights.slice(unit * inputs, (unit + 1) * inputs);
    return Math.max(1e-9, ...row.map(Math.abs)) / 127;
  });
  const bytes = Int8Array.from(weights, (weight, n) => Math.round(weight / (scales[Math.floor(n / inputs)] as number)));
  return { inputs, outputs, weights: base64(bytes), scales: base64(scales), biases: base64(Float32Array.from(biases)) };
};

/** Writes trained layers into core as a TypeScript file, a byte for each weight. */
export const writeLayers = (file: string, name: string, command: string, layers: readonly TrainedLayer[]): void => {
  const lines = [
    `import type { StoredByteLayer } from '${file.includes('/') ? '..' : '.'}/byte-layer';\n`,
    `/** Written by \`npm run ${command}\`; not to be edited. */`,
    `export const ${name}: readonly StoredByteLayer[] = ${JSON.stringify(layers.map(pack), null, 2)};\n`,
  ];
  writeFileSync(join(import.meta.dirname, '../../core/src/signal', file), lines.join('\n'));
};
