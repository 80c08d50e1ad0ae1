/**
 * `npm run bench:sweep`: break tempos planted in simulated sweeps, and what is said of them; and of sweeps without one. Prints the table of
 * docs/figures.md. How sharply the unsteadiness grows beyond the break is the row.
 */
import { chance } from '@isochron/core/analysis';
import { anyLearner, type Learner, sweepOf } from '@isochron/core/simulation';
import { breakTempo, type TempoRange } from '@isochron/core/strategy';

const COUNT = Number(process.argv[2] ?? 500);
const WITHIN = 0.03;

const base: Learner = { ...anyLearner(1), gain: 0, tires: 0, tenseAbove: 9, forgets: 0, mood: 0.2 };

interface Row {
  name: string;
  /** A learner for a seed, and the tempo around which it sweeps. */
  of(uniform: () => number): { learner: Learner; aroundBpm: number };
  hasBreak: boolean;
}

const planted = (growth: number, apart: number): Row => ({
  name: `× ${growth} a tenth beyond it${apart ? ', notes missing more and more' : ''}`,
  hasBreak: true,
  of(uniform) {
    const easyBpm = 70 + 50 * uniform();
    const learner = { ...base, easyBpm, restMs: 2 + 2.5 * uniform(), growth, slips: 0.02, apart };
    return { learner, aroundBpm: easyBpm / (0.75 + 0.5 * uniform()) };
  },
});

const without = (name: string, slips: number): Row => ({
  name,
  hasBreak: false,
  of: (uniform) => ({ learner: { ...base, easyBpm: 400, restMs: 2 + 3 * uniform(), slips }, aroundBpm: 60 + 60 * uniform() }),
});

const ROWS: readonly Row[] = [
  ...[1.5, 2, 3, 5, 9].flatMap((growth) => [planted(growth, 0), planted(growth, 0.1)]),
  without('none', 0),
  without('none, with slips', 0.3),
];

console.log('| break | said to break | within 3 % | in the 90 % interval | interval, of the tempo |\n|---|---|---|---|---|');
for (const { name, of, hasBreak } of ROWS) {
  const found: { truth: number; range: TempoRange }[] = [];
  for (let k = 0; k < COUNT; k += 1) {
    const { learner, aroundBpm } = of(chance(k + 900).uniform);
    const range = breakTempo(sweepOf(learner, aroundBpm, 7 * k + 3).swept);
    if (range) found.push({ truth: learner.easyBpm, range });
  }
  const percent = (share: number) => `${(100 * share).toFixed(0)} %`;
  const near = found.filter(({ truth, range }) => Math.abs(range.bpm / truth - 1) <= WITHIN).length;
  const inside = found.filter(({ truth, range }) => range.low <= truth && truth <= range.high).length;
  const width = found.reduce((sum, { range }) => sum + (range.high - range.low) / range.bpm, 0) / Math.max(1, found.length);
  const cells = [
    name,
    percent(found.length / COUNT),
    ...(hasBreak ? [percent(near / COUNT), percent(inside / found.length), `${(100 * width).toFixed(1)} %`] : ['–', '–', '–']),
  ];
  console.log(`| ${cells.join(' | ')} |`);
}
