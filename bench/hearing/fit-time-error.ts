/**
 * Fits how far off the time of an onset may be (WEIGHTS of core/src/signal/time-error.ts): `npm run bench:fit-time-error -- --phrases 200`,
 * over made recordings of instruments that the ear was not trained on. Prints the weights, and how well they hold on other recordings.
 */
import { parseArgs } from 'node:util';
import { chance } from '@isochron/core/analysis';
import { createOnsetCandidates } from '../../core/src/signal/onset-model/candidates';
import { REFINE_BEFORE_S, refineOnset, SEARCH_AFTER_S } from '../../core/src/signal/refine-onset';
import { RATE } from '../onsets/notes';
import { SAID_MS } from './checks';
import { solve } from './least-squares';
import { createPhraseMaker } from './make-phrase';

const { values } = parseArgs({
  options: { phrases: { type: 'string', default: '200' }, seed: { type: 'string', default: '51' } },
});
const makeOne = createPhraseMaker('unseen');
const HIT_S = 0.025;

interface Sample {
  isSharp: boolean;
  x: readonly [1, ear: number, apart: number];
  errorMs: number;
  isKept: boolean;
}
const samples: Sample[] = [];
const compared: { isSharp: boolean; refinedMs: number; earMs: number; middleMs: number }[] = [];
for (let k = 0; k < Number(values.phrases); k += 1) {
  const random = chance(55_001 * Number(values.seed) + k);
  const { sound, onsets, family } = makeOne(random);
  const ear = createOnsetCandidates(RATE, random.uniform() < 0.5 ? family : null);
  const candidates = [];
  for (let at = 0; at < sound.length; at += 2048) candidates.push(...ear.push(sound.subarray(at, at + 2048)));
  candidates.push(...ear.finish());
  for (const { at, logOdds, shiftS, errorS } of candidates) {
    if (logOdds < 0) continue;
    const place = at + shiftS * RATE;
    const behind = Math.round(REFINE_BEFORE_S * RATE);
    const coarse = Math.round(place);
    if (coarse < behind) continue;
    const part = sound.slice(coarse - behind, coarse + Math.round((SEARCH_AFTER_S + 0.02) * RATE));
    const refined = refineOnset(part, behind, RATE, null);
    const onset = coarse - behind + refined.at;
    const nearest = Math.min(...onsets.map(({ timeS }) => Math.abs(timeS - onset / RATE)));
    if (nearest > HIT_S) continue;
    const apartMs = (1000 * Math.abs(onset - place)) / RATE;
    const earErrorMs = Math.min(...onsets.map(({ timeS }) => Math.abs(1000 * (timeS - place / RATE))));
    const middle = (onset + place) / 2;
    const middleErrorMs = Math.min(...onsets.map(({ timeS }) => Math.abs(1000 * (timeS - middle / RATE))));
    compared.push({ isSharp: refined.isSharp, refinedMs: 1000 * nearest, earMs: earErrorMs, middleMs: middleErrorMs });
    samples.push({ isSharp: refined.isSharp, x: [1, 1000 * errorS, apartMs], errorMs: 1000 * nearest, isKept: k % 4 === 0 });
  }
}

/** √(π/2): from the mean absolute error of a normal distribution to its standard deviation. */
const TO_SD = Math.sqrt(Math.PI / 2);

/** Least squares on absolute errors, each weighed by how large it is thought to be, a few times over. */
const fit = (own: readonly Sample[]): number[] => {
  let weights = [1, 0, 0];
  for (let round = 0; round < 20; round += 1) {
    const matrix = [0, 1, 2].map((a) => [0, 1, 2].map((b) => (a === b ? 1e-3 : 0)));
    const right = [0, 0, 0];
    for (const { x, errorMs } of own) {
      const said = Math.max(
        0.2,
        x.reduce((sum: number, value, k) => sum + value * (weights[k] as number), 0),
      );
      for (let a = 0; a < 3; a += 1) {
        right[a] = (right[a] as number) + ((x[a] as number) * errorMs) / said ** 2;
        for (let b = 0; b < 3; b += 1)
          (matrix[a] as number[])[b] =
            ((matrix[a] as number[])[b] as number) + ((x[a] as number) * (x[b] as number)) / said ** 2;
      }
    }
    weights = solve(matrix, right).map((weight) => Math.max(0, weight));
  }
  return weights;
};

const rmsOf = (values: readonly number[]): string =>
  Math.sqrt(values.reduce((sum, one) => sum + one * one, 0) / Math.max(1, values.length)).toFixed(2);
for (const isSharp of [true, false]) {
  const both = compared.filter((one) => one.isSharp === isSharp);
  console.log(
    `${isSharp ? 'sharp' : 'slow'}: refined ${rmsOf(both.map(({ refinedMs }) => refinedMs))} ms, the ear's own ${rmsOf(both.map(({ earMs }) => earMs))} ms, between them ${rmsOf(both.map(({ middleMs }) => middleMs))} ms`,
  );
  const own = samples.filter((one) => one.isSharp === isSharp);
  const weights = fit(own.filter(({ isKept }) => !isKept));
  console.log(
    `${isSharp ? 'sharp' : 'slow'}: ${weights.map((one) => (one * TO_SD).toFixed(3)).join(' ')} from ${own.length} onsets`,
  );
  const kept = own.filter((one) => one.isKept);
  for (const [low, high] of SAID_MS) {
    const part = kept.filter(({ x }) => {
      const said = TO_SD * x.reduce((sum: number, value, k) => sum + value * (weights[k] as number), 0);
      return said >= low && said < high;
    });
    const rms = Math.sqrt(part.reduce((sum, { errorMs }) => sum + errorMs ** 2, 0) / Math.max(1, part.length));
    if (part.length) console.log(`  said ${low} to ${high} ms: off by ${rms.toFixed(1)} ms, ${part.length} onsets`);
  }
}
