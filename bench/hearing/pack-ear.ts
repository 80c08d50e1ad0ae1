/** Packs the layers that train_ear.py wrote into core: `npm run bench:pack-ear -- FOLDER/ear.json`. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

interface Layer {
  inputs: number;
  outputs: number;
  weights: number[];
  biases: number[];
}

const [file = ''] = process.argv.slice(2);
const layers = JSON.parse(readFileSync(file, 'utf8')) as Layer[];
const base64 = (numbers: Float32Array | Int8Array) =>
  Buffer.from(numbers.buffer, numbers.byteOffset, numbers.byteLength).toString('base64').replaceAll('=', '');
/** A layer that goes on from what it was given: its own weights and the way straight through, from the tap at the step itself. */
const THROUGH_TAPS = [
  [-2, -1, 0, 1],
  [-4, -2, 0, 1],
  [-8, -4, 0, 1],
  [-24, -12, 0],
];
const stored = layers.map(({ inputs, outputs, weights, biases }, depth) => {
  const taps = THROUGH_TAPS[depth - 1];
  const width = taps ? inputs / taps.length : 0;
  if (taps && width === outputs) {
    const from = taps.indexOf(0) * width;
    for (let unit = 0; unit < outputs; unit += 1)
      weights[unit * inputs + from + unit] = 1 + (weights[unit * inputs + from + unit] as number);
  }
  const scales = Float32Array.from({ length: outputs }, (_, unit) => {
    const row = weights.slice(unit * inputs, (unit + 1) * inputs);
    return Math.max(1e-9, ...row.map(Math.abs)) / 127;
  });
  const bytes = Int8Array.from(weights, (weight, n) => Math.round(weight / (scales[Math.floor(n / inputs)] as number)));
  return { inputs, outputs, weights: base64(bytes), scales: base64(scales), biases: base64(Float32Array.from(biases)) };
});
const lines = [
  "import type { StoredEarLayer } from './ear-layer';\n",
  '/** Written by `npm run bench:pack-ear`; not to be edited. */',
  `export const EAR_WEIGHTS: readonly StoredEarLayer[] = ${JSON.stringify(stored, null, 2)};\n`,
];
writeFileSync(join(import.meta.dirname, '../../core/src/signal/ear-weights.ts'), lines.join('\n'));
