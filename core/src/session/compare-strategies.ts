import type { PassageRepetitions } from '../schema/api';
import { makeReason, type Reason } from '../schema/reason';
import { mean } from '../stats/summary';
import { beginDecisions, decide } from '../strategies/decide';
import { beginStrategy, STRATEGIES, snapshotOf } from '../strategies/strategies';
import type { RepetitionOutcome, SessionTarget } from '../strategies/strategy';
import { dayNumber } from '../time/day';
import { constantTempo, headlineBpm } from '../time/tempo-map';

/** What a strategy would have asked for after each repetition that was really played. */
export interface StrategyLine {
  id: string;
  name: string;
  /** The tempo asked for next, one a repetition. */
  askedBpm: number[];
  /** How far that lies from what was really played next, on average, as a share of it. */
  meanShare: number;
}

/** Those whose next repetition depends on one that the history does not have say nothing of it. */
const comparable = STRATEGIES.filter(({ id, repetitionKinds }) => id !== 'free' && !repetitionKinds?.includes('sweep'));

const playedOf = ({ bpm, outcome, toleranceUsage, ease, notes }: PassageRepetitions[number]): RepetitionOutcome => ({
  tempo: constantTempo(bpm),
  bpm,
  verdict: { outcome, reason: 'none', why: makeReason('none') },
  toleranceUsage,
  ease: ease ?? 'working',
  notes,
});

/** Takes each strategy through what was really played: after each repetition it says what it would have asked for next. */
export const compareStrategies = (repetitions: PassageRepetitions, goalBpm: number): StrategyLine[] => {
  if (repetitions.length < 2) return [];
  return comparable.map(({ id, name }) => {
    let decisions = beginDecisions(beginStrategy(id, null));
    let takeId = '';
    const askedBpm = repetitions.map((one) => {
      if (one.takeId !== takeId) {
        takeId = one.takeId;
        decisions = beginDecisions(beginStrategy(id, snapshotOf(decisions.strategy)));
      }
      const target: SessionTarget = {
        goalBpm,
        startBpm: one.startBpm,
        day: dayNumber(new Date(one.startedAt)),
      };
      const next = decide(decisions, playedOf(one), target);
      decisions = next.decisions;
      return headlineBpm(next.decision.tempo);
    });
    // Between takes nothing was decided.
    const shares = repetitions.slice(1).flatMap((one, k) => {
      const before = repetitions[k] as PassageRepetitions[number];
      return one.takeId === before.takeId ? [(askedBpm[k] as number) / one.bpm - 1] : [];
    });
    return { id, name, askedBpm, meanShare: shares.length ? mean(shares) : 0 };
  });
};

/** What differs, in one sentence: who would have asked for the fastest and who for the slowest. Null where nothing can be said. */
export const strategiesSentence = (lines: readonly StrategyLine[]): Reason | null => {
  const sorted = [...lines].sort((a, b) => a.meanShare - b.meanShare);
  const [slowest, fastest] = [sorted[0], sorted.at(-1)];
  if (!slowest || !fastest || slowest === fastest) return null;
  return makeReason('strategies-differ', {
    fastest: fastest.name,
    fastestPct: Math.round(100 * fastest.meanShare),
    slowest: slowest.name,
    slowestPct: Math.round(100 * slowest.meanShare),
  });
};
