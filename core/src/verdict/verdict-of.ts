import type { Drill } from '../schema/grid';
import type { Measures } from '../schema/measures';
import { makeReason } from '../schema/reason';
import type { Tolerance } from '../schema/tolerance';
import type { Verdict } from '../schema/verdict';
import type { ExpectedNote } from '../time/repetition-plan';
import { judgeSurely, notJudged } from './judge';
import { judgedOf } from './judged';

/** How many onsets must be paired before a repetition is worth judging. */
const HEARD_SHARE = 0.1;

/** Fewer notes than this have no rhythm of their own: without a known delay nothing says whether they are late. */
const MIN_NOTES = 3;

/** A measured repetition, and what it is held against. */
export interface MeasuredRepetition {
  notes: readonly ExpectedNote[];
  measures: Measures;
  tolerance: Tolerance;
  /** The calibrated latency in seconds, or null where there is none. */
  latencyS: number | null;
  judging: Drill['judging'];
  /** What only the recording tells: that sound is missing in it, or that its click could not be taken out of it. */
  recording: 'gap' | 'bleed' | null;
}

/** The verdict of a repetition: the one place where it follows from the measures. */
export const verdictOf = ({ notes, measures, tolerance, latencyS, judging, recording }: MeasuredRepetition): Verdict => {
  if (recording === 'gap') return notJudged('gap');
  const { brokenOff } = measures;
  if (brokenOff?.byHand) return notJudged('by-hand', { note: brokenOff.note, of: brokenOff.of });
  if (brokenOff) return { outcome: 'broken', reason: 'broken-off', why: makeReason('broken-off', brokenOff) };
  // Another thing was played than was asked: it is said as that, and is no failure of evenness.
  const { playedAs } = measures;
  if (playedAs && playedAs.kind !== 'stumble') return notJudged(playedAs.kind);
  if (playedAs)
    return {
      outcome: 'broken',
      reason: 'stumble',
      why: makeReason('stumble', playedAs.note === undefined ? {} : { note: playedAs.note + 1 }),
    };
  if (notes.length - measures.missed < HEARD_SHARE * notes.length) return notJudged('silence');
  if (recording === 'bleed') return notJudged('bleed');
  // Playing in a tempo of its own has no place that a delay could be told from.
  const knownLatencyS = judging.ownTempo ? null : latencyS;
  // Chords are judged by how they come together, however few there are.
  const hasOnlyTime = measures.chordSpreadMs === null || measures.chordSpreadMs === undefined;
  if (notes.length < MIN_NOTES && knownLatencyS === null && hasOnlyTime) return notJudged('few');
  return judgeSurely(judgedOf(notes, measures, tolerance, knownLatencyS !== null, judging), measures, judging.leftOut);
};
