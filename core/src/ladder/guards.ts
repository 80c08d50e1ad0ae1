import type { Decision } from '../schema/take';
import type { Played } from './school';

/** After this many failed repetitions in a row the loop stops and asks what the trouble is. */
export const FAILURES_BEFORE_PROBLEM = 4;
/** How far a tense repetition suggests dropping, in bpm (common practice, no source). */
const TENSE_DROP_BPM = 10;

type Ruling = Omit<Decision, 'overruled'>;

/** A guard stands over every school: it may rule before the school is asked, or return null. */
type Guard = (played: Played) => Ruling | null;

const painStops: Guard = ({ ease, tempoBpm }) =>
  ease === 'pain'
    ? {
        action: 'stop',
        nextTempoBpm: tempoBpm,
        reason:
          'Pain, numbness or tingling: stop here and rest. If it stays, see a doctor or physiotherapist who treats musicians.',
      }
    : null;

const tenseNeverRaises: Guard = ({ ease, tempoBpm }) => {
  if (ease !== 'tense') return null;
  const next = Math.max(20, tempoBpm - TENSE_DROP_BPM);
  return { action: 'lower', nextTempoBpm: next, reason: `That felt tense: down to ${next}, and stay until it is loose.` };
};

const unjudgedChangesNothing: Guard = ({ verdict, tempoBpm }) =>
  verdict.outcome === 'not-judged'
    ? { action: 'hold', nextTempoBpm: tempoBpm, reason: `Not judged, so nothing changes: again at ${tempoBpm}.` }
    : null;

const GUARDS: readonly Guard[] = [painStops, tenseNeverRaises, unjudgedChangesNothing];

/** The first guard's ruling on a repetition, or null where the school may decide. */
export const guardRuling = (played: Played): Ruling | null => {
  for (const guard of GUARDS) {
    const ruling = guard(played);
    if (ruling) return ruling;
  }
  return null;
};

/** Turns the school's decision into a pause for thought once too many repetitions in a row have failed. */
export const problemRuling = (failedInARow: number, tempoBpm: number): Ruling | null =>
  failedInARow >= FAILURES_BEFORE_PROBLEM
    ? {
        action: 'problem',
        nextTempoBpm: tempoBpm,
        reason: `${FAILURES_BEFORE_PROBLEM} tries in a row did not come clean. Time to look at the passage instead of repeating it.`,
      }
    : null;
