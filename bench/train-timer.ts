/**
 * Trains the timer of attacks on the tuned half of the corpus and writes it into core: `npm run bench:train-timer`.
 * Needs Debian's fluidsynth and fluid-soundfont-gm. Takes a few minutes.
 */
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { attackFeatures, chance } from '@isochron/core';
import { type Example, foldIn, standardise, train } from './onsets/adam';
import { RATE } from './onsets/notes';
import { clickFree, makeTrainingRecordings } from './onsets/training';
import { writeWeights } from './onsets/write-weights';

const { values } = parseArgs({
  options: { takes: { type: 'string', default: '2' }, epochs: { type: 'string', default: '20' } },
});
/** The judge places a note to within about this (standard deviation), now and then less well; each note is shown from several such places. */
const COARSE_MS = 4;
const WORSE_MS = 9;
const WORSE_SHARE = 0.3;
const PLACES = 3;

const { normal, uniform } = chance(78);
const examples: Example[] = [];
for (const recording of makeTrainingRecordings(join(tmpdir(), 'isochron-onset-bench'), Number(values.takes))) {
  const sound = clickFree(recording);
  for (const onsetS of recording.onsetsS) {
    for (let place = 0; place < PLACES; place += 1) {
      const withinMs = uniform() < WORSE_SHARE ? WORSE_MS : COARSE_MS;
      const coarse = Math.round((onsetS + (withinMs / 1000) * normal()) * RATE);
      const family = uniform() < 0.5 ? recording.instrument.family : null;
      examples.push({
        features: attackFeatures(sound, coarse, RATE, family),
        isNote: true,
        shiftMs: 1000 * (onsetS - coarse / RATE),
      });
    }
  }
}
console.log(`${examples.length} attacks`);
const { mean, spread } = standardise(examples);
const trained = train(examples, {
  hidden: [64, 24],
  epochs: Number(values.epochs),
  seed: 6,
  onEpoch: (epoch, loss) => console.log(`epoch ${epoch + 1}: loss ${loss.toFixed(4)}`),
});
writeWeights('attack-timer-weights.ts', 'ATTACK_TIMER_WEIGHTS', 'bench:train-timer', foldIn(trained, mean, spread));
