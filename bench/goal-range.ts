/**
 * Whether the 80 % range of a goal holds: `npm run bench:goals`. Learners of made-up laws (on the first of which its constants were
 * chosen), and learners that practise by the app's own strategies, which nothing was chosen on. Prints a table.
 */
import { chance } from '@isochron/core/analysis';
import { type CleanDay, goalRange } from '@isochron/core/planning';
import { dayAt, dayIndex } from '@isochron/core/schema';
import { anyLearner } from '../core/src/player/learner';
import { practiseWeeks } from '../core/src/player/practise-weeks';

const FIRST = 20_500;
const DAYS = 420;

/** Best clean tempos of a year and more, day by day (null: not played); the goal is set by what was clean on some later day. */
type Law = (seed: number) => (number | null)[];

const withChance = (seed: number, level: (day: number) => number): (number | null)[] => {
  const { uniform, normal } = chance(seed);
  const rests = 0.2 + 0.4 * uniform();
  return Array.from({ length: DAYS }, (_, day) =>
    uniform() < rests ? null : Math.round(level(day) * Math.exp(0.025 * normal())),
  );
};
const LAWS: Record<string, Law> = {
  'power law': (seed) => {
    const { uniform } = chance(seed + 1);
    const [from, gain, power] = [60 + 40 * uniform(), 0.03 + 0.06 * uniform(), 0.3 + 0.3 * uniform()];
    return withChance(seed, (day) => from * (1 + gain * day ** power));
  },
  'spurts and plateaus': (seed) => {
    const { uniform } = chance(seed + 2);
    const from = 60 + 40 * uniform();
    let level = 0;
    let left = 0;
    let pace = 0;
    const levels = Array.from({ length: DAYS }, () => {
      if (left <= 0) {
        left = 10 + 40 * uniform();
        pace = uniform() < 0.5 ? 0 : 0.001 + 0.005 * uniform();
      }
      left -= 1;
      level += pace;
      return from * Math.exp(level);
    });
    return withChance(seed, (day) => levels[day] as number);
  },
  'nears a limit': (seed) => {
    const { uniform } = chance(seed + 3);
    const [from, gain, days] = [60 + 40 * uniform(), 0.2 + 0.5 * uniform(), 50 + 150 * uniform()];
    return withChance(seed, (day) => from * (1 + gain * (1 - Math.exp(-day / days))));
  },
};
for (const strategyId of ['half-speed-climb', 'notch-by-notch'])
  LAWS[`by the strategy ${strategyId}`] = (seed) => {
    const { history } = practiseWeeks({ strategyId, learner: anyLearner(seed), goalBpm: 400, weeks: 28, seed });
    return Array.from({ length: DAYS }, (_, day) => history.find((one) => one.day === day)?.bestCleanBpm ?? null);
  };

const LEARNERS = 150;
console.log(
  '| learners | forecasts | said a range | its end open | nothing said | held | too early | too late | middle width |\n|---|---|---|---|---|---|---|---|---|',
);
for (const [name, law] of Object.entries(LAWS)) {
  let [asked, ranged, open, silent, held, early, late] = [0, 0, 0, 0, 0, 0, 0];
  const widths: number[] = [];
  for (let k = 0; k < (name.startsWith('by') ? 40 : LEARNERS); k += 1) {
    const bests = law(900 + 17 * k);
    const { uniform } = chance(77 + k);
    const seen = 30 + Math.floor(90 * uniform());
    const history: CleanDay[] = bests
      .slice(0, seen)
      .flatMap((bpm, day) => (bpm === null ? [] : [{ day: dayAt(FIRST + day), bestCleanBpm: bpm }]));
    const best = Math.max(...history.map(({ bestCleanBpm }) => bestCleanBpm));
    // Goals as players set them: a little to a lot beyond, whether or not it will ever be reached.
    const goal = Math.round(best * (1.03 + 0.17 * uniform()));
    const when = bests.findIndex((bpm, day) => day >= seen && bpm !== null && bpm >= goal);
    asked += 1;
    const range = goalRange(history, goal, dayAt(FIRST + seen - 1));
    if (!range.from) {
      silent += 1;
      continue;
    }
    ranged += 1;
    if (!range.to) open += 1;
    const at = when < 0 ? Number.POSITIVE_INFINITY : when;
    const from = dayIndex(range.from) - FIRST;
    const to = range.to ? dayIndex(range.to) - FIRST : Number.POSITIVE_INFINITY;
    if (range.to) widths.push(to - from);
    if (at < from) early += 1;
    else if (at > to) late += 1;
    else held += 1;
  }
  const pct = (n: number) => `${Math.round((100 * n) / ranged)} %`;
  console.log(
    `| ${name} | ${asked} | ${ranged} | ${open} | ${silent} | ${pct(held)} | ${pct(early)} | ${pct(late)} | ${widths.sort((a, b) => a - b)[widths.length >> 1] ?? '–'} days |`,
  );
}
