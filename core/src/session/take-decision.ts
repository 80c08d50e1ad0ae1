import { makeReason } from '../schema/reason';
import type { Decision } from '../schema/take';
import type { DecisionState } from '../strategies/decide';
import type { SessionTarget } from '../strategies/strategy';
import { constantTempo, headlineBpm } from '../time/tempo-map';
import type { Decided } from './loop-state';
import { decideInRound } from './round';

const overruled = (decision: Decision, fromBpm: number, wishedBpm: number): Decision => ({
  action: wishedBpm > fromBpm ? 'raise' : wishedBpm < fromBpm ? 'lower' : 'hold',
  tempo: constantTempo(wishedBpm),
  why: makeReason('your-choice', { bpm: wishedBpm, strategy: headlineBpm(decision.tempo) }),
  overruled: true,
});

/** Takes a decision from what it rests on; the player's own tempo stands, but a tense repetition is never raised by it. */
export const takeDecision = (decided: Decided, target: SessionTarget): { decisions: DecisionState; decision: Decision } => {
  const { before, played, pending, wishedBpm, round } = decided;
  const told = decideInRound(round, before, played, target, pending);
  const wishStands = wishedBpm !== null && (played.ease !== 'tense' || wishedBpm <= headlineBpm(told.decision.tempo));
  return wishStands ? { ...told, decision: overruled(told.decision, played.bpm, wishedBpm) } : told;
};
