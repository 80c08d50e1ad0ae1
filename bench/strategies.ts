/**
 * `npm run bench:strategies`: where each tempo strategy leads learners of several kinds, simulated. Prints the table of docs/figures.md.
 */
import { LEARNERS } from '@isochron/core/simulation';
import { STRATEGIES } from '@isochron/core/strategy';
import { settleMany } from './strategies/settling';

const COUNT = 30;
const REPETITIONS = 120;

console.log(
  '| strategy | learner | edge, bpm | repetitions to within 5 % | clean there | tempo there varies by | false goals | next start, of the edge |\n|---|---|---|---|---|---|---|---|',
);
for (const { id, name } of STRATEGIES) {
  if (id === 'free') continue;
  for (const learner of LEARNERS) {
    const { edge, reached, reachedAfter, cleanShare, oscillation, falseGoals, nextStartShare } = settleMany(
      id,
      learner,
      COUNT,
      REPETITIONS,
    );
    const told = (value: number, text: string) => (Number.isFinite(value) ? text : '–');
    const percent = (share: number) => told(share, `${Math.round(100 * share)} %`);
    const cells = [
      name,
      learner.name,
      edge.toFixed(0),
      told(reachedAfter, `${reachedAfter.toFixed(0)}${reached < 1 ? ` (${percent(reached)})` : ''}`),
      percent(cleanShare),
      told(oscillation, `${(100 * oscillation).toFixed(1)} %`),
      percent(falseGoals),
      percent(nextStartShare),
    ];
    console.log(`| ${cells.join(' | ')} |`);
  }
}
