/**
 * Packs the layers that train_ear.py wrote into core: `npm run bench:pack-ear -- FOLDER/ear.json`. With `--unpack` the other way:
 * the layers that are in core as a file to go on training from.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { EAR_TAPS } from '../../core/src/signal/ear';
import { type StoredEarLayer, unpackEarLayer } from '../../core/src/signal/ear-layer';
import { EAR_WEIGHTS } from '../../core/src/signal/ear-weights';

/** A layer as it is trained. */
interface Layer {
  inputs: number;
  outputs: number;
  weights: number[];
  biases: number[];
}

const { values, positionals } = parseArgs({ options: { unpack: { type: 'boolean' } }, allowPositionals: true });
const [file = ''] = positionals;

const base64 = (numbers: Float32Array | Int8Array) =>
  Buffer.from(numbers.buffer, numbers.byteOffset, numbers.byteLength).toString('base64').replaceAll('=', '');

/**
 * A layer as wide as the one before goes on from what that gave: in training that is added, in core it is part of the weights of
 * the step's own tap. Adds so many times that way straight through.
 */
const through = ({ inputs, outputs, weights, ...rest }: Layer, depth: number, times: 1 | -1): Layer => {
  const taps: readonly number[] = EAR_TAPS[depth - 1] ?? [];
  const width = inputs / taps.length;
  const from = taps.indexOf(0) * width;
  const isStraight = (n: number) => width === outputs && (n % inputs) - from === Math.floor(n / inputs);
  return { inputs, outputs, weights: weights.map((weight, n) => (isStraight(n) ? weight + times : weight)), ...rest };
};

const pack = ({ inputs, outputs, weights, biases }: Layer): StoredEarLayer => {
  const scales = Float32Array.from({ length: outputs }, (_, unit) => {
    const row = weights.slice(unit * inputs, (unit + 1) * inputs);
    return Math.max(1e-9, ...row.map(Math.abs)) / 127;
  });
  const bytes = Int8Array.from(weights, (weight, n) => Math.round(weight / (scales[Math.floor(n / inputs)] as number)));
  return { inputs, outputs, weights: base64(bytes), scales: base64(scales), biases: base64(Float32Array.from(biases)) };
};

if (values.unpack) {
  const layers = EAR_WEIGHTS.map(unpackEarLayer).map(({ inputs, outputs, weights, biases }, depth) =>
    through({ inputs, outputs, weights: [...weights], biases: [...biases] }, depth, -1),
  );
  writeFileSync(file, JSON.stringify(layers));
} else {
  const layers = JSON.parse(readFileSync(file, 'utf8')) as Layer[];
  const stored = layers.map((layer, depth) => pack(through(layer, depth, 1)));
  const lines = [
    "import type { StoredEarLayer } from './ear-layer';\n",
    '/** Written by `npm run bench:pack-ear`; not to be edited. */',
    `export const EAR_WEIGHTS: readonly StoredEarLayer[] = ${JSON.stringify(stored, null, 2)};\n`,
  ];
  writeFileSync(join(import.meta.dirname, '../../core/src/signal/ear-weights.ts'), lines.join('\n'));
}
