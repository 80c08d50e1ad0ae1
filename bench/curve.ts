/**
 * `npm run bench:curve`: the easy and edge tempos that forty repetitions tell, against those of simulated learners. Prints the table of
 * docs/figures.md. Learners of the first kind were looked at while the model was made, the others were not.
 */
import { anyLearner, LEARNERS, type Learner, repetitionOf, tempoOf } from '@isochron/core/simulation';
import { EASY_CHANCE, EDGE_CHANCE, type TempoRange } from '@isochron/core/strategy';
import { toldCurve } from './told-curve';

const COUNT = Number(process.argv[2] ?? 200);
const REPETITIONS = 40;
const TRIES = 1200;
const WITHIN = 0.04;

const still = { gain: 0, tires: 0, tenseAbove: 9, forgets: 0 };

const KINDS: { name: string; of(k: number): Learner }[] = [
  { name: 'of any kind', of: (k) => ({ ...anyLearner(k + 1), ...still }) },
  ...LEARNERS.map((learner) => ({ name: learner.name, of: () => ({ ...learner, ...still }) })),
];

const curveOf = (learner: Learner, startBpm: number, goalBpm: number, seed: number) =>
  toldCurve({
    strategyId: 'adaptive',
    startBpm,
    goalBpm,
    repetitions: REPETITIONS,
    play: (bpm, k) => repetitionOf(learner, bpm, seed * 1000 + k),
  });

console.log(
  '| learners | tempo | told | within 4 % | in the 90 % interval | interval, of the tempo | off by, mean |\n|---|---|---|---|---|---|---|',
);
for (const { name, of } of KINDS) {
  const rows = { easy: [] as [number, TempoRange | null][], edge: [] as [number, TempoRange | null][] };
  const count = name === 'of any kind' ? COUNT : Math.ceil(COUNT / 5);
  let truth: { easy: number | null; edge: number } | null = null;
  for (let k = 0; k < count; k += 1) {
    const learner = of(k);
    if (name === 'of any kind' || truth === null)
      truth = {
        easy: tempoOf(learner, EASY_CHANCE, undefined, TRIES),
        edge: tempoOf(learner, EDGE_CHANCE, undefined, TRIES) as number,
      };
    const curve = curveOf(learner, Math.round(0.6 * truth.edge), Math.round(1.6 * truth.edge), k + 1);
    rows.edge.push([truth.edge, curve?.edge() ?? null]);
    if (truth.easy !== null) rows.easy.push([truth.easy, curve?.easy() ?? null]);
  }
  for (const [tempo, all] of Object.entries(rows)) {
    const told = all.flatMap(([bpm, range]) => (range ? [{ bpm, range }] : []));
    const share = (some: (one: { bpm: number; range: TempoRange }) => boolean) =>
      `${Math.round((100 * told.filter(some).length) / told.length)} %`;
    const mean = (of: (one: { bpm: number; range: TempoRange }) => number) =>
      `${((100 * told.reduce((sum, one) => sum + of(one), 0)) / told.length).toFixed(1)} %`;
    const cells = [
      name,
      tempo,
      `${told.length} of ${all.length}`,
      share(({ bpm, range }) => Math.abs(range.bpm / bpm - 1) <= WITHIN),
      share(({ bpm, range }) => range.low <= bpm && bpm <= range.high),
      mean(({ range }) => (range.high - range.low) / range.bpm),
      mean(({ bpm, range }) => range.bpm / bpm - 1),
    ];
    console.log(`| ${cells.join(' | ')} |`);
  }
}
