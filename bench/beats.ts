/**
 * Whether the beats of a recording are found: `npm run bench:beats`. Invented accompaniments of several layers at known beats, steady,
 * drifting and freely played, as sound that the ear then hears. A beat counts as found within 40 ms. Prints a table.
 */
import { chance, detectOnsets, mean } from '@isochron/core/analysis';
import { doubleBeats, findBeats, halveBeats, shiftBeats } from '@isochron/core/material';
import { ACCOMPANIMENT_STYLES, type AccompanimentStyle, inventAccompaniment, inventBeats } from '@isochron/core/simulation';
import { pairs } from './onsets/score';

const RATE = 44_100;
const LENGTH_S = 40;
const REACH_S = 0.04;

/** The tempo over time, as a share of its middle. */
const CONFIGS: Record<string, (timeS: number, seed: number) => number> = {
  steady: () => 1,
  'drifting by 10 %': (timeS, seed) => 1 + (seed % 2 ? 1 : -1) * 0.1 * (timeS / LENGTH_S - 0.5) * 2,
  'breathing by 6 %': (timeS, seed) => 1 + 0.06 * Math.sin((2 * Math.PI * timeS) / 11 + seed),
};

const make = (style: AccompanimentStyle, config: string, seed: number) => {
  const random = chance(seed);
  const bpm = 55 + 125 * random.uniform();
  const share = CONFIGS[config] as (typeof CONFIGS)[string];
  const beats = inventBeats({ bpm, firstS: 0.6 + random.uniform(), lengthS: LENGTH_S, share: (timeS) => share(timeS, seed) });
  return { beats, sound: inventAccompaniment({ beatsS: beats, style, lengthS: LENGTH_S, rateHz: RATE, seed }) };
};

/** F-measure of beats within reach, as is usual for beat tracking. */
const fOf = (truth: readonly number[], found: readonly number[]): number =>
  (2 * pairs(truth, found, 0, REACH_S).length) / Math.max(1, truth.length + found.length);

const SEEDS = 12;
console.log(
  '| style, course | beats within 40 ms (F) | files at 0.95 and more | after at most one action: F | files |\n|---|---|---|---|---|',
);
for (const style of Object.keys(ACCOMPANIMENT_STYLES) as AccompanimentStyle[])
  for (const config of Object.keys(CONFIGS)) {
    const plain: number[] = [];
    const acted: number[] = [];
    for (let seed = 0; seed < SEEDS; seed += 1) {
      const { sound, beats } = make(style, config, 300 + 7 * seed + config.length);
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
      `| ${style}, ${config} | ${mean(plain).toFixed(3)} | ${good(plain)} | ${mean(acted).toFixed(3)} | ${good(acted)} |`,
    );
  }
