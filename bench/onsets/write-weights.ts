import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Perceptron } from '@isochron/core/analysis';

/** Writes a trained perceptron into core as a TypeScript file. */
export const writeWeights = (file: string, name: string, command: string, layers: Perceptron): void => {
  const stored = layers.map(({ inputs, outputs, weights, biases }) => ({
    inputs,
    outputs,
    values: Buffer.from(Float32Array.of(...weights, ...biases).buffer)
      .toString('base64')
      .replaceAll('=', ''),
  }));
  const lines = [
    "import type { StoredLayer } from './perceptron';\n",
    `/** Written by \`npm run ${command}\`; not to be edited. */`,
    `export const ${name}: readonly StoredLayer[] = ${JSON.stringify(stored, null, 2)};\n`,
  ];
  writeFileSync(join(import.meta.dirname, '../../core/src/signal', file), lines.join('\n'));
};
