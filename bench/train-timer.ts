/**
 * Trains the timer of attacks on recordings as the ear is trained on and writes it into core: `npm run bench:train-timer`. Needs what
 * bench/hearing/write-corpus.ts needs. Takes about a quarter of an hour.
 */
import { parseArgs } from 'node:util';
import { attackFeatures, chance } from '@isochron/core/analysis';
import { createPhraseMaker } from './hearing/make-phrase';
import { type Example, foldIn, standardise, train } from './onsets/adam';
import { RATE } from './onsets/notes';
import { writeWeights } from './onsets/write-weights';

const { values } = parseArgs({
  options: {
    phrases: { type: 'string', default: '1200' },
    epochs: { type: 'string', default: '12' },
    seed: { type: 'string', default: '31' },
  },
});
/** The ear places a note to within about this (standard deviation), now and then less well; each note is shown from several such places. */
const COARSE_MS = 3;
const WORSE_MS = 8;
const WORSE_SHARE = 0.3;
const PLACES = 2;

const { normal, uniform } = chance(78);
const makeOne = createPhraseMaker('trained');
const examples: Example[] = [];
for (let k = 0; k < Number(values.phrases); k += 1) {
  const { sound, onsets, family: own } = makeOne(chance(1_000_003 * Number(values.seed) + k));
  for (const { timeS } of onsets.filter(({ isAudible }) => isAudible)) {
    for (let place = 0; place < PLACES; place += 1) {
      const withinMs = uniform() < WORSE_SHARE ? WORSE_MS : COARSE_MS;
      const coarse = Math.max(0, Math.round((timeS + (withinMs / 1000) * normal()) * RATE));
      const family = uniform() < 0.5 ? own : null;
      const features = attackFeatures(sound, coarse, RATE, family);
      examples.push({ features, isNote: true, shiftMs: 1000 * (timeS - coarse / RATE) });
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
