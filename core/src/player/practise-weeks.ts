import { startTempo } from '../plan/start-tempo';
import { summariseTake } from '../plan/summarise-take';
import type { TakeSummary } from '../schema/take-summary';
import { mean, sampleSd } from '../stats/summary';
import { beginDecisions, decide } from '../strategies/decide';
import {
  beginStrategy,
  nextRepetitionKind,
  type StrategyRun,
  snapshotOf,
  strategyOf,
  strategyStart,
} from '../strategies/strategies';
import type { RepetitionOutcome } from '../strategies/strategy';
import { headlineBpm } from '../time/tempo-map';
import { afterNight, afterRepetition, easyNow, FRESH, type Learner, PLAYS, tempoOf } from './learner';

/** How a simulated learner practises one passage. */
export interface WeeksRun {
  strategyId: string;
  learner: Learner;
  goalBpm: number;
  weeks: number;
  seed: number;
}

/** What became of it. Shares are 0…1. */
export interface WeeksResult {
  /** Decisions that broke a rule which stands over every strategy, by name. */
  broken: string[];
  repetitions: number;
  /** The day on which the goal was reached; null where it was not. */
  goalDay: number | null;
  /** Of the last two weeks: how many repetitions were clean, the mean tempo against the learner's edge, and how far it went to and fro. */
  cleanShare: number;
  tempoShare: number;
  oscillation: number;
  /** Best clean tempo of the last week against the slower of goal and edge. */
  reachedShare: number;
  /** The last day's start against the easy tempo of that day. */
  startShare: number;
  /** The best clean tempo of each day that had one; days are those of the calendar, with two at rest a week. */
  history: { day: number; bestCleanBpm: number }[];
  /** How much easier it became. */
  gained: number;
}

const DAYS_A_WEEK = 5;
const REPETITIONS_A_DAY = 16;
/** After the loop stopped to think, the learner plays on below. */
const AFTER_THOUGHT = 0.9;
/** Wider than this share of the tempo no strategy goes up at once; a sweep that held may. */
const WIDEST_RAISE = 0.26;

/** Which rule a decision breaks, if any. */
const brokenRule = (played: RepetitionOutcome, action: string, toBpm: number, mostBpm: number): string | null => {
  const { ease, bpm, verdict, repetitionKind, breakBpm } = played;
  if (action !== 'raise') return null;
  if (ease === 'tense' || ease === 'pain') return 'raised although it was tense';
  if (verdict.outcome === 'not-judged') return 'raised although it was not judged';
  if (!repetitionKind && verdict.outcome !== 'clean') return 'raised although it was not clean';
  if (toBpm > mostBpm) return 'raised beyond the goal';
  // What a sweep held together up to has been played already.
  const sweptBpm = repetitionKind === 'sweep' ? (breakBpm ?? 0) : 0;
  return toBpm > Math.max(bpm + 10, (1 + WIDEST_RAISE) * bpm, sweptBpm) ? 'raised too far at once' : null;
};

/** A learner in a strategy over weeks, day by day, as the app would lead it. The same run gives the same result. */
export const practiseWeeks = ({ strategyId, learner, goalBpm, weeks, seed }: WeeksRun): WeeksResult => {
  let state = FRESH;
  let summary: TakeSummary | null = null;
  let run: StrategyRun = beginStrategy(strategyId, null);
  const broken: string[] = [];
  const late: { bpm: number; isClean: boolean; edgeBpm: number }[] = [];
  const lastWeek: number[] = [];
  const history: WeeksResult['history'] = [];
  let goalDay: number | null = null;
  let repetitions = 0;
  let startShare = Number.NaN;
  const days = weeks * DAYS_A_WEEK;
  // The edge moves with what is easy.
  const edgeShare = (tempoOf(learner, 0.5, FRESH, 150) ?? learner.easyBpm) / learner.easyBpm;
  for (let day = 0; day < days; day += 1) {
    const kept = snapshotOf(run);
    run = beginStrategy(strategyId, kept);
    const startBpm = Math.min(goalBpm, strategyStart(run) ?? startTempo(goalBpm, summary).bpm);
    startShare = startBpm / easyNow(learner, state);
    const target = { goalBpm, startBpm, day: day + 2 * Math.floor(day / DAYS_A_WEEK) };
    const overshoot = strategyOf(strategyId).overshootPct?.(run.options) ?? 0;
    const mostBpm = Math.round(goalBpm * (1 + overshoot / 100));
    let decisions = beginDecisions(run);
    let bpm = startBpm;
    const edgeBpm = day >= days - 2 * DAYS_A_WEEK ? edgeShare * easyNow(learner, state) : 0;
    const played: RepetitionOutcome[] = [];
    for (let k = 0; k < REPETITIONS_A_DAY; k += 1) {
      const repetitionKind = nextRepetitionKind(decisions.strategy);
      const own = seed * 100_000 + day * 100 + k;
      const one = PLAYS[repetitionKind](learner, bpm, own, state);
      repetitions += 1;
      state = afterRepetition(learner, state);
      const next = decide(decisions, one, target);
      decisions = next.decisions;
      const to = headlineBpm(next.decision.tempo);
      const rule = brokenRule(one, next.decision.action, to, mostBpm);
      if (rule) broken.push(rule);
      if (repetitionKind === 'asked') {
        played.push(one);
        if (edgeBpm > 0) late.push({ bpm, isClean: one.verdict.outcome === 'clean', edgeBpm });
      }
      if (next.decision.action === 'goal') {
        goalDay ??= day;
        break;
      }
      if (next.decision.action === 'stop' || next.decision.action === 'done') break;
      bpm = next.decision.action === 'problem' ? Math.max(10, Math.round(to * AFTER_THOUGHT)) : to;
    }
    run = decisions.strategy;
    const outcomes = played.map(({ tempo, verdict, ease, toleranceUsage }) => ({
      tempo,
      verdict,
      ease,
      measures: { toleranceUsage },
    }));
    summary = summariseTake({ drills: [], repetitions: outcomes }, goalBpm, startBpm) ?? summary;
    if (summary?.bestCleanBpm) history.push({ day: target.day, bestCleanBpm: summary.bestCleanBpm });
    if (day >= days - DAYS_A_WEEK && summary?.bestCleanBpm) lastWeek.push(summary.bestCleanBpm);
    state = afterNight(learner, state);
  }
  const edge = late.at(-1)?.edgeBpm ?? Number.NaN;
  const shares = late.map(({ bpm, edgeBpm }) => bpm / edgeBpm);
  return {
    broken,
    repetitions,
    goalDay,
    cleanShare: late.filter(({ isClean }) => isClean).length / late.length,
    tempoShare: mean(shares),
    oscillation: sampleSd(shares),
    reachedShare: lastWeek.length ? Math.max(...lastWeek) / Math.min(edge, goalBpm) : 0,
    startShare,
    history,
    gained: state.gained,
  };
};
