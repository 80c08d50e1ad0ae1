/** Where the strategies lead learners that they were not made with. */
import { headlineBpm } from '@isochron/core/material';
import { startTempo, summariseTake } from '@isochron/core/planning';
import type { TakeSummary } from '@isochron/core/schema';
import {
  beginDecisions,
  beginStrategy,
  decide,
  nextRepetitionKind,
  type RepetitionOutcome,
  STRATEGIES,
  snapshotOf,
  strategyOf,
  strategyStart,
} from '@isochron/core/strategy';
import { ODD_LEARNERS, type OddLearner, oddBreak, oddRepetition } from '../players/learners';
import { pct, type Table } from './table';

const DAYS = 20;
const REPETITIONS_A_DAY = 16;
const GOAL_BPM = 150;
/** No strategy may keep anyone longer where less than every other repetition is clean. */
const MOST_STRAINED = 6;

interface Weeks {
  /** Of the last five days. */
  late: boolean[];
  /** Repetitions that followed six without a way down of which less than half were clean. */
  strained: number;
  repetitions: number;
  /** Decisions that broke a rule that stands over every strategy. */
  broken: number;
}

const outcomeOf = ({ tempo, verdict, ease, toleranceUsage }: RepetitionOutcome) => ({
  tempo,
  verdict,
  ease,
  measures: { toleranceUsage },
});

const weeksOf = (strategyId: string, learner: OddLearner, seed: number): Weeks => {
  const weeks: Weeks = { late: [], strained: 0, repetitions: 0, broken: 0 };
  let summary: TakeSummary | null = null;
  let run = beginStrategy(strategyId, null);
  for (let day = 0; day < DAYS; day += 1) {
    run = beginStrategy(strategyId, snapshotOf(run));
    const startBpm = Math.min(GOAL_BPM, strategyStart(run) ?? startTempo(GOAL_BPM, summary).bpm);
    let decisions = beginDecisions(run);
    let bpm = startBpm;
    let sinceLowered: boolean[] = [];
    const played: RepetitionOutcome[] = [];
    for (let k = 0; k < REPETITIONS_A_DAY; k += 1) {
      const kind = nextRepetitionKind(decisions.strategy);
      const moment = { bpm, played: weeks.repetitions, playedToday: k, seed: seed * 100_000 + day * 100 + k };
      const one = oddRepetition(learner, moment);
      // A burst is played faster, and a sweep is said to break where this player would.
      const outcome =
        kind === 'burst'
          ? { ...one, repetitionKind: kind, ownBpm: 1.25 * bpm }
          : kind === 'sweep'
            ? { ...one, repetitionKind: kind, breakBpm: oddBreak(learner, moment) }
            : one;
      weeks.repetitions += 1;
      const next = decide(decisions, outcome, { goalBpm: GOAL_BPM, startBpm, day: day + 2 * Math.floor(day / 5) });
      decisions = next.decisions;
      const { action, tempo } = next.decision;
      const isClean = one.verdict.outcome === 'clean';
      if (kind === 'asked') {
        played.push(one);
        if (day >= DAYS - 5) weeks.late.push(isClean);
        sinceLowered.push(isClean);
        const last = sinceLowered.slice(-MOST_STRAINED - 1);
        if (last.length > MOST_STRAINED && 2 * last.slice(0, -1).filter(Boolean).length < MOST_STRAINED) weeks.strained += 1;
        if (action === 'raise' && !isClean) weeks.broken += 1;
        if (action === 'lower' && headlineBpm(tempo) >= bpm) weeks.broken += 1;
      }
      if (action === 'goal' || action === 'stop' || action === 'done') break;
      const to = headlineBpm(tempo);
      if (to < bpm || action === 'problem') sinceLowered = [];
      bpm = action === 'problem' ? Math.max(20, Math.round(0.9 * to)) : to;
    }
    run = decisions.strategy;
    summary = summariseTake({ drills: [], repetitions: played.map(outcomeOf) }, GOAL_BPM, startBpm) ?? summary;
  }
  return weeks;
};

export const decisionTables = (times = 10): Table[] => {
  const ids = STRATEGIES.map(({ id }) => id);
  const all = ODD_LEARNERS.map((learner) =>
    ids.map((id) => Array.from({ length: times }, (_, k) => weeksOf(id, learner, k + 1))),
  );
  const table = (title: string, about: string, cell: (runs: readonly Weeks[]) => string): Table => ({
    title,
    about,
    head: ['learner', ...ids.map((id) => strategyOf(id).name)],
    rows: ODD_LEARNERS.map(({ id }, row) => [id, ...(all[row] ?? []).map(cell)]),
  });
  const sum = (runs: readonly Weeks[], of: (one: Weeks) => number) => runs.reduce((total, one) => total + of(one), 0);
  return [
    table(
      'Where the strategies lead',
      `Share of clean repetitions in the last week of four, ${times} learners each, 16 repetitions a day, goal ${GOAL_BPM}. Wanted: 60 to 90 %, and more only by a plan’s nature.`,
      (runs) => {
        const late = runs.flatMap((one) => one.late);
        return pct(late.filter(Boolean).length / late.length);
      },
    ),
    table(
      'Kept above the edge',
      `Share of repetitions that came after ${MOST_STRAINED} of which less than half were clean, with no way down or pause between. Wanted: none, but under Free.`,
      (runs) => pct(sum(runs, ({ strained }) => strained) / sum(runs, ({ repetitions }) => repetitions)),
    ),
    table(
      'Rules broken',
      'Raised after what was not clean, or “down” to no slower tempo. Wanted: none.',
      (runs) => `${sum(runs, ({ broken }) => broken)}`,
    ),
  ];
};
