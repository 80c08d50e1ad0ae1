/**
 * Fits how much the score's word weighs beside the ear's (WEIGHTS of core/src/signal/scored-candidates.ts):
 * `npm run bench:fit-pitch-change -- --phrases 300 --seed 21`. A logistic fit over candidates in made
 * recordings of known pitches, of instruments that the ear was not trained on.
 */
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { chance } from '@isochron/core/analysis';
import { createOnsetCandidates } from '../../core/src/signal/onset-model/candidates';
import { createPitchChangeWatch } from '../../core/src/signal/pitch-change';
import { pitchChangeFeatures } from '../../core/src/signal/scored-candidates';
import { SAMPLED } from '../onsets/instruments';
import { RATE } from '../onsets/notes';
import { pick } from './draw';
import { solve } from './least-squares';
import { NOTES } from './make-phrase';
import { inSurroundings, playSampled } from './phrases';
import { PHYSICAL_MODELS, playPhysical } from './physical';
import { fontSources } from './sources';

const { values } = parseArgs({
  options: { phrases: { type: 'string', default: '300' }, seed: { type: 'string', default: '21' } },
});
const PITCHED = SAMPLED.filter(({ family }) => family !== 'drum');
const sources = (['fluid', 'musescore'] as const).flatMap((font) => fontSources(font, NOTES, 'unseen', PITCHED));

/** A candidate is a note's within this; between it and the second nothing is said. */
const HIT_S = 0.025;
const UNSURE_S = 0.06;

const samples: { x: number[]; isNote: boolean }[] = [];
for (let k = 0; k < Number(values.phrases); k += 1) {
  const random = chance(77_003 * Number(values.seed) + k);
  const source = pick(random, sources);
  const played =
    random.uniform() < 0.25
      ? playPhysical(pick(random, PHYSICAL_MODELS), random, join(NOTES, 'physical'))
      : playSampled(source, source.notes(), random);
  const { sound, onsets } = inSurroundings(played, random);
  const pitched = onsets.filter(({ pitch }) => pitch !== undefined);
  if (pitched.length < 3) continue;
  const sequence = pitched.map(({ pitch }) => [Math.round(pitch as number)]);
  const ear = createOnsetCandidates(RATE, random.uniform() < 0.5 ? played.family : null);
  const watch = createPitchChangeWatch(RATE, sequence);
  const block = 2048;
  const found: { timeS: number; x: number[] }[] = [];
  let waiting: { at: number; place: number; logOdds: number }[] = [];
  const take = (candidates: ReturnType<typeof ear.push>) => {
    waiting.push(...candidates.map(({ at, shiftS, logOdds }) => ({ at, place: at + shiftS * RATE, logOdds })));
    waiting = waiting.filter(({ place, logOdds }) => {
      if (!watch.knows(place)) return true;
      found.push({ timeS: place / RATE, x: [logOdds, ...pitchChangeFeatures(watch.ask(place), watch.repeatShare)] });
      return false;
    });
  };
  for (let at = 0; at < sound.length; at += block) {
    const part = sound.subarray(at, at + block);
    watch.push(part);
    take(ear.push(part));
  }
  watch.finish();
  take(ear.finish());
  const taken = new Set<number>();
  for (const { timeS, isAudible } of onsets) {
    let best = -1;
    found.forEach((one, n) => {
      if (Math.abs(one.timeS - timeS) > HIT_S || taken.has(n)) return;
      if (best < 0 || (one.x[0] as number) > ((found[best] as (typeof found)[number]).x[0] as number)) best = n;
    });
    found.forEach((one, n) => {
      if (n !== best && Math.abs(one.timeS - timeS) < UNSURE_S) taken.add(n);
    });
    if (best < 0) continue;
    taken.add(best);
    if (isAudible) samples.push({ x: (found[best] as (typeof found)[number]).x, isNote: true });
  }
  found.forEach(({ x }, n) => {
    if (!taken.has(n)) samples.push({ x, isNote: false });
  });
}

const size = samples[0]?.x.length ?? 0;
const fit = (columns: readonly number[]): { weights: number[]; loss: number } => {
  const weights = new Array<number>(columns.length + 1).fill(0);
  // Newton's method for a logistic regression, lightly held to zero.
  let loss = 0;
  for (let round = 0; round < 60; round += 1) {
    const n = weights.length;
    const gradient = new Array<number>(n).fill(0);
    const bend = Array.from({ length: n }, (_, a) => Array.from({ length: n }, (_, b) => (a === b ? 1 : 0)));
    loss = 0;
    for (const { x, isNote } of samples) {
      const z = [1, ...columns.map((c) => x[c] as number)];
      const p = 1 / (1 + Math.exp(-z.reduce((sum, value, a) => sum + value * (weights[a] as number), 0)));
      loss -= Math.log(Math.max(1e-9, isNote ? p : 1 - p)) / samples.length;
      for (let a = 0; a < n; a += 1) {
        gradient[a] = (gradient[a] as number) + ((isNote ? 1 : 0) - p) * (z[a] as number);
        for (let b = 0; b < n; b += 1)
          (bend[a] as number[])[b] = ((bend[a] as number[])[b] as number) + p * (1 - p) * (z[a] as number) * (z[b] as number);
      }
    }
    const step = solve(bend, gradient);
    // No leap farther than the likelihood can be trusted to be round.
    const shorter = Math.min(1, 1 / Math.max(...step.map(Math.abs)));
    for (let a = 0; a < n; a += 1) weights[a] = (weights[a] as number) + shorter * (step[a] as number);
  }
  return { weights, loss };
};

console.log(`${samples.length} candidates, ${samples.filter(({ isNote }) => isNote).length} notes`);
// Core adds the score's word to the ear's log-odds as they are: divide by the ear's own weight, and take off what it has alone.
for (const columns of [[0], Array.from({ length: size }, (_, k) => k)]) {
  const { weights, loss } = fit(columns);
  console.log(
    `ear${columns.length > 1 ? ' and score' : ' alone'}: loss ${loss.toFixed(4)}, weights ${weights.map((w) => w.toFixed(3)).join(' ')}`,
  );
}
