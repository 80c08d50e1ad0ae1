import { mean, sampleSd } from '@isochron/core/analysis';
import { headlineBpm } from '@isochron/core/material';
import { nextStart, type StartOutcome } from '@isochron/core/planning';
import { cleanChance, FRESH, type Learner, PLAYS, tempoOf } from '@isochron/core/simulation';
import { beginDecisions, beginStrategy, decide, nextRepetitionKind, type RepetitionOutcome } from '@isochron/core/strategy';

/** What became of a learner in a strategy. */
export interface Settled {
  /** Repetitions until within 5 % of the edge; null where that was never reached. */
  reachedAfter: number | null;
  /** The share of clean repetitions once it was reached. */
  cleanShare: number | null;
  /** Standard deviation of the tempo from then on, as a share of the edge. */
  oscillation: number | null;
  /** Whether the goal was said to be reached although it is clean less than every other time. */
  falseGoal: boolean;
  /** The next start as a share of the edge. */
  nextStartShare: number;
  repetitions: number;
}

interface Run {
  strategyId: string;
  learner: Learner;
  goalBpm: number;
  startBpm: number;
  repetitions: number;
  seed: number;
}

const NEAR = 0.05;

const edges = new Map<string, number>();

/** The tempo at which every other repetition of a learner is clean. */
const edgeOf = (learner: Learner, state = FRESH): number => {
  const key = `${learner.name} ${state.gained.toFixed(3)}`;
  const known = edges.get(key) ?? (tempoOf(learner, 0.5, state) as number);
  edges.set(key, known);
  return known;
};

/** Takes a learner through a strategy, without an end but the goal. A pause to think is answered by going on as the strategy says. */
export const settle = ({ strategyId, learner, goalBpm, startBpm, repetitions, seed }: Run): Settled => {
  let decisions = beginDecisions(beginStrategy(strategyId, null));
  let bpm = startBpm;
  let gained = 0;
  const played: RepetitionOutcome[] = [];
  let falseGoal = false;
  for (let k = 0; k < repetitions; k += 1) {
    const repetitionKind = nextRepetitionKind(decisions.strategy);
    const one = PLAYS[repetitionKind](learner, bpm, seed * 1000 + k, { ...FRESH, gained });
    // What a strategy asks for besides is no tempo of the passage.
    if (repetitionKind === 'asked') played.push(one);
    const next = decide(decisions, one, { goalBpm, startBpm });
    decisions = next.decisions;
    gained += learner.gain / (1 + k / 60);
    if (next.decision.action === 'goal') {
      falseGoal = cleanChance(learner, bpm, { ...FRESH, gained }) < 0.5;
      break;
    }
    bpm = headlineBpm(next.decision.tempo);
  }
  const edge = edgeOf(learner, { ...FRESH, gained });
  const target = Math.min(edge, goalBpm);
  const at = played.findIndex((one) => one.bpm >= (1 - NEAR) * target && one.bpm <= (1 + NEAR) * edge);
  const after = at < 0 ? [] : played.slice(at);
  const outcomes = played.map(
    ({ tempo, verdict, toleranceUsage }) => ({ tempo, verdict, ease: null, measures: { toleranceUsage } }) as StartOutcome,
  );
  return {
    reachedAfter: at < 0 ? null : at + 1,
    cleanShare: after.length < 20 ? null : after.filter(({ verdict }) => verdict.outcome === 'clean').length / after.length,
    oscillation: after.length < 20 ? null : sampleSd(after.map((one) => one.bpm)) / edge,
    falseGoal,
    nextStartShare: nextStart(outcomes, goalBpm, startBpm).bpm / edge,
    repetitions: played.length,
  };
};

/** Many learners of a kind, with a goal far beyond their edge, and once with one a little beyond it. */
export const settleMany = (strategyId: string, learner: Learner, count: number, repetitions: number) => {
  const edge = edgeOf(learner);
  const far = Array.from({ length: count }, (_, k) =>
    settle({
      strategyId,
      learner,
      goalBpm: Math.round(edge * 1.6),
      startBpm: Math.round(edge * 0.6),
      repetitions,
      seed: k + 1,
    }),
  );
  const beyond = Array.from({ length: count }, (_, k) =>
    settle({
      strategyId,
      learner: { ...learner, gain: 0 },
      goalBpm: Math.round(edge * 1.06),
      startBpm: Math.round(edge * 0.8),
      repetitions,
      seed: k + 500,
    }),
  );
  const meanOf = (values: readonly (number | null)[]) => mean(values.filter((value) => value !== null));
  return {
    edge,
    reached: far.filter(({ reachedAfter }) => reachedAfter !== null).length / count,
    reachedAfter: meanOf(far.map((one) => one.reachedAfter)),
    cleanShare: meanOf(far.map((one) => one.cleanShare)),
    oscillation: meanOf(far.map((one) => one.oscillation)),
    falseGoals: beyond.filter((one) => one.falseGoal).length / count,
    nextStartShare: meanOf(far.map((one) => one.nextStartShare)),
  };
};
