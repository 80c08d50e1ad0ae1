import { mean } from '@isochron/core/analysis';
import { anyLearner, practiseWeeks, tempoOf, type WeeksResult } from '@isochron/core/simulation';
import { STRATEGIES } from '@isochron/core/strategy';
import { parseCall } from './parse-call';
import { UsageError } from './usage';

const OPTIONS = {
  learners: { type: 'string', default: '200' },
  weeks: { type: 'string', default: '8' },
  seed: { type: 'string', default: '1' },
  only: { type: 'string' },
  json: { type: 'boolean' },
} as const;

/** The goal lies so far beyond the edge of the first day. */
const GOAL_SHARE = 1.4;
/** A learner stays behind where the best clean tempo of the last week is less than this of what could be. */
const BEHIND = 0.8;

const wholeNumber = (name: string, text: string, most: number): number => {
  const value = Number(text);
  if (!Number.isInteger(value) || value < 1 || value > most)
    throw new UsageError(`--${name} is a whole number from 1 to ${most}, not “${text}”.`, 2);
  return value;
};

interface Row {
  strategy: string;
  name: string;
  learners: number;
  /** Decisions that broke a rule which stands over every strategy. */
  broken: number;
  brokenRules: string[];
  repetitions: number;
  cleanPct: number;
  tempoOfEdgePct: number;
  oscillationPct: number;
  reachedPct: number;
  behindPct: number;
  goalPct: number;
  startOfEasyPct: number;
}

const rowOf = ({ id, name }: { id: string; name: string }, results: readonly WeeksResult[]): Row => {
  const meanPct = (of: (one: WeeksResult) => number) => Math.round(1000 * mean(results.map(of).filter(Number.isFinite))) / 10;
  const sharePct = (some: (one: WeeksResult) => boolean) =>
    Math.round((1000 * results.filter(some).length) / results.length) / 10;
  return {
    strategy: id,
    name,
    learners: results.length,
    broken: results.reduce((sum, { broken }) => sum + broken.length, 0),
    brokenRules: [...new Set(results.flatMap(({ broken }) => broken))],
    repetitions: Math.round(mean(results.map(({ repetitions }) => repetitions))),
    cleanPct: meanPct((one) => one.cleanShare),
    tempoOfEdgePct: meanPct((one) => one.tempoShare),
    oscillationPct: meanPct((one) => one.oscillation),
    reachedPct: meanPct((one) => one.reachedShare),
    behindPct: sharePct((one) => one.reachedShare < BEHIND),
    goalPct: sharePct((one) => one.goalDay !== null),
    startOfEasyPct: meanPct((one) => one.startShare),
  };
};

const table = (rows: readonly Row[]): string =>
  [
    '| strategy | rules broken | clean, last two weeks | tempo there, of the edge | goes to and fro by | best clean, of what could be | stay behind | goal reached | next start, of the easy tempo |',
    '|---|---|---|---|---|---|---|---|---|',
    ...rows.map((row) =>
      [
        '',
        row.name,
        row.broken,
        ...[row.cleanPct, row.tempoOfEdgePct, row.oscillationPct, row.reachedPct, row.behindPct, row.goalPct].map(
          (one) => `${one} %`,
        ),
        `${row.startOfEasyPct} %`,
        '',
      ]
        .join(' | ')
        .trim(),
    ),
    '',
  ].join('\n');

/** `isochron strategies`: every tempo strategy on simulated learners over weeks. */
export const strategies = async (args: string[]): Promise<string> => {
  const { values } = parseCall(args, OPTIONS);
  const learners = wholeNumber('learners', values.learners, 10_000);
  const weeks = wholeNumber('weeks', values.weeks, 104);
  const seed = wholeNumber('seed', values.seed, 1_000_000);
  const wanted = values.only?.split(',');
  const unknown = wanted?.find((id) => !STRATEGIES.some((strategy) => strategy.id === id));
  if (unknown)
    throw new UsageError(`There is no strategy “${unknown}”. There are: ${STRATEGIES.map(({ id }) => id).join(', ')}.`, 2);
  const rows: Row[] = [];
  for (const strategy of STRATEGIES.filter(({ id }) => !wanted || wanted.includes(id))) {
    const results: WeeksResult[] = [];
    for (let k = 0; k < learners; k += 1) {
      const own = 1000 * seed + k;
      const learner = anyLearner(own);
      const goalBpm = Math.round(GOAL_SHARE * (tempoOf(learner, 0.5, undefined, 100) ?? learner.easyBpm));
      results.push(practiseWeeks({ strategyId: strategy.id, learner, goalBpm, weeks, seed: own }));
      if (process.stderr.isTTY) process.stderr.write(`\r${strategy.name}: ${k + 1} of ${learners} `);
    }
    rows.push(rowOf(strategy, results));
  }
  if (process.stderr.isTTY) process.stderr.write('\n');
  return values.json ? `${JSON.stringify({ learners, weeks, seed, strategies: rows }, null, 2)}\n` : table(rows);
};
