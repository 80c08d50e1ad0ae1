import { makeReason } from '../schema/reason';
import type { Decision } from '../schema/take';
import { constantTempo } from '../time/tempo-map';
import type { RepetitionOutcome } from './strategy';

/** After this many failed repetitions in a row, or twice as many close ones, the loop stops and asks what the trouble is. */
export const FAILURES_BEFORE_PROBLEM = 4;
/** How far a tense repetition suggests dropping, in bpm (common practice, no source). */
const TENSE_DROP_BPM = 10;

export type Ruling = Omit<Decision, 'overruled'>;

/** A guard stands over every strategy: it may rule before the strategy is asked, or return null. */
type Guard = (played: RepetitionOutcome) => Ruling | null;

const painStops: Guard = ({ ease, tempo }) => (ease === 'pain' ? { action: 'stop', tempo, why: makeReason('pain') } : null);

const tenseNeverRaises: Guard = ({ ease, bpm }) =>
  ease === 'tense'
    ? { action: 'lower', tempo: constantTempo(bpm - TENSE_DROP_BPM), why: makeReason('tense', { bpm: bpm - TENSE_DROP_BPM }) }
    : null;

const unjudgedChangesNothing: Guard = ({ verdict, tempo, bpm }) =>
  verdict.outcome === 'not-judged' ? { action: 'hold', tempo, why: makeReason('not-judged', { bpm }) } : null;

const GUARDS: readonly Guard[] = [painStops, tenseNeverRaises, unjudgedChangesNothing];

/** The first guard's ruling on a repetition, or null where the strategy may decide. */
export const guardRuling = (played: RepetitionOutcome): Ruling | null => {
  for (const guard of GUARDS) {
    const ruling = guard(played);
    if (ruling) return ruling;
  }
  return null;
};

/** Whether so many failed repetitions in a row call for thought instead of another try. */
export const isProblem = (failedInARow: number): boolean => failedInARow >= FAILURES_BEFORE_PROBLEM;
