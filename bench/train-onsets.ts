/**
 * Trains the judge of onset candidates on the tuned half of the corpus and writes it into core:
 * `npm run bench:train-onsets [-- --continue --first 20]`, anew, or on from the weights that are there with other recordings.
 * Needs Debian's fluidsynth and fluid-soundfont-gm. Takes about half an hour.
 */
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { CANDIDATE_FEATURES, chance, createCandidateFinder, FAMILIES, JUDGE, type Perceptron } from '@isochron/core';
import { calibrateOdds, type Example, foldIn, scaleOdds, standardise, train, unfold } from './onsets/adam';
import { RATE } from './onsets/notes';
import { clickFree, makeTrainingRecordings } from './onsets/training';
import { writeWeights } from './onsets/write-weights';

const { values } = parseArgs({
  options: {
    takes: { type: 'string', default: '6' },
    first: { type: 'string', default: '0' },
    epochs: { type: 'string', default: '10' },
    continue: { type: 'boolean' },
  },
});
const FOLDER = join(tmpdir(), 'isochron-onset-bench');
/** A candidate this near to a note is that note's. */
const SAME_MS = 25;
/** Of the candidates farther from any note than this, every other one is left out of the training: they are the easy ones. */
const FAR_MS = 80;
/** Every so many-th recording is kept for the calibration of the log-odds. */
const CALIBRATE_EVERY = 12;

const { uniform } = chance(77);
const examples: Example[] = [];
const kept: Example[] = [];
let notes = 0;
let offered = 0;
let recordings = 0;
for (const recording of makeTrainingRecordings(FOLDER, Number(values.takes), Number(values.first))) {
  const finder = createCandidateFinder(RATE);
  const candidates = [...finder.push(clickFree(recording)), ...finder.finish()];
  const seen = new Set<number>();
  recordings += 1;
  const isKept = recordings % CALIBRATE_EVERY === 0;
  for (const { at, features } of candidates) {
    const timeMs = (1000 * at) / RATE;
    const nearest = recording.onsetsS.reduce(
      (best, onset) => (Math.abs(1000 * onset - timeMs) < Math.abs(best) ? 1000 * onset - timeMs : best),
      Number.POSITIVE_INFINITY,
    );
    const isNote = Math.abs(nearest) <= SAME_MS;
    if (isNote) seen.add(Math.round(1000 * (nearest + timeMs)));
    if (!isKept && Math.abs(nearest) > FAR_MS && uniform() < 0.5) continue;
    const input = new Float32Array(CANDIDATE_FEATURES + FAMILIES.length);
    input.set(features);
    // Half of the time the instrument is not known.
    if (uniform() < 0.5) input[CANDIDATE_FEATURES + FAMILIES.indexOf(recording.instrument.family)] = 1;
    (isKept ? kept : examples).push({ features: input, isNote, shiftMs: isNote ? nearest : 0 });
  }
  notes += recording.onsetsS.length;
  offered += seen.size;
}
console.log(`${examples.length} candidates; ${offered} of ${notes} notes have one`);
const { mean, spread } = standardise(examples);
const trained: Perceptron = train(examples, {
  hidden: [64, 24],
  epochs: Number(values.epochs),
  seed: 5,
  from: values.continue ? unfold(JUDGE, mean, spread) : undefined,
  onEpoch: (epoch, loss) => console.log(`epoch ${epoch + 1}: loss ${loss.toFixed(4)}`),
});
const { scale, shift } = calibrateOdds(foldIn(trained, mean, spread), kept);
console.log(`log-odds × ${scale.toFixed(3)} ${shift < 0 ? '−' : '+'} ${Math.abs(shift).toFixed(2)}`);
const layers = scaleOdds(foldIn(trained, mean, spread), scale, shift);
writeWeights('onset-judge-weights.ts', 'ONSET_JUDGE_WEIGHTS', 'bench:train-onsets', layers);
