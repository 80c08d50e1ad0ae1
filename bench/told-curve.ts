import { headlineBpm } from '@isochron/core/material';
import {
  beginDecisions,
  beginStrategy,
  decide,
  type RepetitionOutcome,
  type TempoCurve,
  tempoCurve,
  triedOf,
} from '@isochron/core/strategy';

/** How a learner is taken through a strategy to be told a curve. */
interface Practised {
  strategyId: string;
  startBpm: number;
  goalBpm: number;
  repetitions: number;
  /** The learner's repetition number `k` at a tempo. */
  play(bpm: number, k: number): RepetitionOutcome;
}

/** The tempo curve that so many repetitions of a strategy tell; null where they tell none. */
export const toldCurve = ({ strategyId, startBpm, goalBpm, repetitions, play }: Practised): TempoCurve | null => {
  let decisions = beginDecisions(beginStrategy(strategyId, null));
  let bpm = startBpm;
  const tried = Array.from({ length: repetitions }, (_, k) => {
    const played = play(bpm, k);
    const next = decide(decisions, played, { goalBpm, startBpm });
    decisions = next.decisions;
    bpm = headlineBpm(next.decision.tempo);
    return triedOf(played);
  });
  return tempoCurve(tried);
};
