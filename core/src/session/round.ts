import type { Drill } from '../schema/grid';
import { makeReason } from '../schema/reason';
import type { Decision } from '../schema/take';
import { beginDecisions, type DecisionState, decide, type PendingDecision } from '../strategies/decide';
import { guardRuling } from '../strategies/guards';
import { beginStrategy } from '../strategies/strategies';
import type { RepetitionOutcome, SessionTarget } from '../strategies/strategy';
import { clampBpm } from '../time/clamp-tempo';
import { notchesFrom } from '../time/marks';
import { constantTempo } from '../time/tempo-map';

/** Where the drill that was played stands among those that are played in turn. */
export interface Round {
  index: number;
  of: number;
  until: NonNullable<Drill['until']>;
  /** Notches by which the next drill is asked for above or below this one. */
  nextNotches: number;
  /** Where a piece that is begun anew begins. */
  startBpm: number;
}

/** In a round of so many drills the tempo waits for the last one; in longer ones it goes on after each. */
const SHORT_ROUND = 8;

const hasNext = ({ index, of }: Round): boolean => index + 1 < of;

/** On to the next drill at a tempo. */
const onward = ({ index, of }: Round, code: 'next-drill' | 'next-piece', bpm: number): Decision => ({
  action: 'next',
  tempo: constantTempo(bpm),
  why: makeReason(code, { number: index + 2, of, bpm }),
  overruled: false,
});

/**
 * The decision after a repetition of one of several drills. The guards and what is pending come first, as ever. Then: a clean repetition
 * leads to the next drill of a short round at the same tempo, and only the last one lets the strategy raise; a piece that is worked up by
 * itself leads to the next once it has reached the goal, and that one begins at the start tempo with the strategy begun anew.
 */
export const decideInRound = (
  round: Round,
  decisions: DecisionState,
  played: RepetitionOutcome,
  target: SessionTarget,
  pending: PendingDecision | null,
): { decisions: DecisionState; decision: Decision } => {
  // What a strategy asks for in between is not one of the round.
  if (played.repetitionKind) return decide(decisions, played, target, pending);
  const isClean = played.verdict.outcome === 'clean';
  if (hasNext(round) && round.until === 'clean' && round.of <= SHORT_ROUND && isClean && !pending && !guardRuling(played)) {
    const bpm = clampBpm(notchesFrom(played.bpm, round.nextNotches));
    return { decisions: { ...decisions, failedInARow: 0, notCleanInARow: 0 }, decision: onward(round, 'next-drill', bpm) };
  }
  const told = decide(decisions, played, target, pending);
  if (told.decision.action !== 'goal' || !hasNext(round)) return told;
  const { id, options } = decisions.strategy;
  const anew = beginDecisions(beginStrategy(id, { options: options as never, state: null }));
  return round.until === 'goal'
    ? { decisions: anew, decision: onward(round, 'next-piece', round.startBpm) }
    : { decisions: told.decisions, decision: onward(round, 'next-drill', played.bpm) };
};

/** The drill that comes after a repetition: the next one where it was led on to, or where a long round goes on; else the same. */
export const drillAfter = (round: Round, played: RepetitionOutcome, { action }: Pick<Decision, 'action'>): number => {
  if (played.repetitionKind) return round.index;
  if (action === 'next') return round.index + 1;
  const isClean = played.verdict.outcome === 'clean';
  if (round.until !== 'clean' || !isClean || action === 'goal' || action === 'problem' || action === 'stop') return round.index;
  // The last of a round leads back to the first; in a long round every clean one leads on.
  return (round.index + 1) % round.of === 0 || round.of > SHORT_ROUND ? (round.index + 1) % round.of : round.index;
};
