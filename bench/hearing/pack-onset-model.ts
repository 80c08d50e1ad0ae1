/**
 * Packs the layers that train_ear.py wrote into core: `npm run bench:pack-onset-model -- FOLDER/ear.json`. With `--unpack` the other way:
 * the layers that are in core as a file to go on training from.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { unpackByteLayer } from '../../core/src/signal/byte-layer';
import { ONSET_MODEL_TAPS } from '../../core/src/signal/onset-model/onset-model';
import { ONSET_MODEL_WEIGHTS } from '../../core/src/signal/onset-model/weights';
import { type TrainedLayer, writeLayers } from './write-layers';

const { values, positionals } = parseArgs({ options: { unpack: { type: 'boolean' } }, allowPositionals: true });
const [file = ''] = positionals;

/**
 * A layer as wide as the one before goes on from what that gave: in training that is added, in core it is part of the weights of
 * the step's own tap. Adds so many times that way straight through.
 */
const through = ({ inputs, outputs, weights, ...rest }: TrainedLayer, depth: number, times: 1 | -1): TrainedLayer => {
  const taps: readonly number[] = ONSET_MODEL_TAPS[depth - 1] ?? [];
  const width = inputs / taps.length;
  const from = taps.indexOf(0) * width;
  const isStraight = (n: number) => width === outputs && (n % inputs) - from === Math.floor(n / inputs);
  return { inputs, outputs, weights: weights.map((weight, n) => (isStraight(n) ? weight + times : weight)), ...rest };
};

if (values.unpack) {
  const layers = ONSET_MODEL_WEIGHTS.map(unpackByteLayer).map(({ inputs, outputs, weights, biases }, depth) =>
    through({ inputs, outputs, weights: [...weights], biases: [...biases] }, depth, -1),
  );
  writeFileSync(file, JSON.stringify(layers));
} else {
  const layers = JSON.parse(readFileSync(file, 'utf8')) as TrainedLayer[];
  const whole = layers.map((layer, depth) => through(layer, depth, 1));
  writeLayers('onset-model/weights.ts', 'ONSET_MODEL_WEIGHTS', 'bench:pack-onset-model', whole);
}
