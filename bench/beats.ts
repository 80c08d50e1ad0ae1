/**
 * Whether the beats of a recording are found: `npm run bench:beats`. Invented accompaniments of several layers at known beats, steady,
 * drifting and freely played, as sound that the ear then hears. A beat counts as found within 40 ms. Prints a table.
 */
import { chance, detectOnsets, doubleBeats, findBeats, halveBeats, mean, mixInto, shiftBeats } from '@isochron/core';
import { pairs } from './onsets/score';

const RATE = 44_100;
const LENGTH_S = 40;
const REACH_S = 0.04;

/** One struck sound: a low drum, a noise, or a note with a few harmonics. */
const strike = (kind: 'low' | 'noise' | 'note', hz: number, random: ReturnType<typeof chance>): Float32Array =>
  Float32Array.from({ length: Math.round(0.35 * RATE) }, (_, n) => {
    const t = n / RATE;
    if (kind === 'noise') return 0.5 * random.normal() * Math.exp(-t / 0.03);
    if (kind === 'low') return Math.sin(2 * Math.PI * (60 + 60 * Math.exp(-t / 0.02)) * t) * Math.exp(-t / 0.1);
    return (
      [1, 0.5, 0.25].reduce((sum, gain, k) => sum + gain * Math.sin(2 * Math.PI * hz * (k + 1) * t), 0) *
      Math.min(1, t / 0.004) *
      Math.exp(-t / 0.25) *
      0.5
    );
  });

/** The tempo over time, as a share of its middle. */
const COURSES: Record<string, (timeS: number, seed: number) => number> = {
  steady: () => 1,
  'drifting by 10 %': (timeS, seed) => 1 + (seed % 2 ? 1 : -1) * 0.1 * (timeS / LENGTH_S - 0.5) * 2,
  'breathing by 6 %': (timeS, seed) => 1 + 0.06 * Math.sin((2 * Math.PI * timeS) / 11 + seed),
};
/** How the layers sit on the beat, in sixteenths of a beat's quarters: each layer's places and how often it plays there. */
const STYLES = {
  'on every beat': {
    low: [[0, 1]],
    noise: [
      [0, 0.5],
      [2, 0.4],
    ],
    note: [
      [0, 0.9],
      [2, 0.6],
    ],
  },
  'off-beats and gaps': {
    low: [
      [0, 0.8],
      [3, 0.25],
    ],
    noise: [[2, 0.8]],
    note: [
      [0, 0.5],
      [1, 0.2],
      [2, 0.5],
      [3, 0.3],
    ],
  },
  'notes alone': {
    low: [],
    noise: [],
    note: [
      [0, 0.9],
      [1, 0.45],
      [2, 0.7],
      [3, 0.45],
    ],
  },
} as const;

const make = (style: keyof typeof STYLES, course: keyof typeof COURSES, seed: number) => {
  const random = chance(seed);
  const bpm = 55 + 125 * random.uniform();
  const beats: number[] = [];
  for (let timeS = 0.6 + random.uniform(); timeS < LENGTH_S - 0.6; ) {
    beats.push(timeS);
    timeS += 60 / (bpm * (COURSES[course] as (typeof COURSES)[string])(timeS, seed));
  }
  const sound = new Float32Array(LENGTH_S * RATE);
  const noise = random.normal;
  for (let n = 0; n < sound.length; n += 1) sound[n] = 0.001 * noise();
  beats.forEach((beatS, k) => {
    const next = beats[k + 1] ?? beatS + 60 / bpm;
    for (const [kind, places] of Object.entries(STYLES[style]))
      for (const [place, share] of places as readonly (readonly [number, number])[]) {
        if (random.uniform() > share) continue;
        const atS = beatS + ((next - beatS) * place) / 4 + 0.006 * random.normal();
        const gain = (place === 0 ? 0.3 : 0.2) * 10 ** ((-8 * random.uniform()) / 20) * (k % 4 === 0 ? 1.3 : 1);
        mixInto(sound, 0, {
          frame: Math.round(atS * RATE),
          samples: strike(kind as 'low', 196 * 2 ** (Math.floor(12 * random.uniform()) / 12), random),
          gain,
        });
      }
  });
  return { sound, beats };
};

/** F-measure of beats within reach, as is usual for beat tracking. */
const fOf = (truth: readonly number[], found: readonly number[]): number =>
  (2 * pairs(truth, found, 0, REACH_S).length) / Math.max(1, truth.length + found.length);

const SEEDS = 12;
console.log(
  '| style, course | beats within 40 ms (F) | files at 0.95 and more | after at most one action: F | files |\n|---|---|---|---|---|',
);
for (const style of Object.keys(STYLES) as (keyof typeof STYLES)[])
  for (const course of Object.keys(COURSES)) {
    const plain: number[] = [];
    const acted: number[] = [];
    for (let seed = 0; seed < SEEDS; seed += 1) {
      const { sound, beats } = make(style, course, 300 + 7 * seed + course.length);
      const { timesS } = findBeats(detectOnsets(sound, RATE), LENGTH_S);
      plain.push(fOf(beats, timesS));
      acted.push(
        Math.max(
          ...[timesS, doubleBeats(timesS), halveBeats(timesS), halveBeats(timesS, 1), shiftBeats(timesS)].map((one) =>
            fOf(beats, one),
          ),
        ),
      );
    }
    const good = (values: readonly number[]) => `${values.filter((one) => one >= 0.95).length} of ${values.length}`;
    console.log(
      `| ${style}, ${course} | ${mean(plain).toFixed(3)} | ${good(plain)} | ${mean(acted).toFixed(3)} | ${good(acted)} |`,
    );
  }
