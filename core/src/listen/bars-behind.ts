import { type AnalysedRepetition, analyseUntil, offsetToTry } from '../measure/analyse-repetition';
import { barStarts } from '../schema/frame';
import type { Onset } from '../schema/measures';
import { canBreakOff } from './completion';
import type { Expectation } from './expectation';

/** What was heard of the bars that are over, while the repetition still sounds. */
export interface BarsBehind extends Pick<AnalysedRepetition, 'notes' | 'measures'> {
  repetition: number;
}

/** A repetition of more bars than these is long: what is behind is shown before its end (our choice: a line or two of the page). */
const SHORT_BARS = 4;
/** A bar is behind so long after its end, in seconds: its last note is certain by then. */
const BEHIND_S = 0.3;

/** With more notes than this missed or added, as a share of all, it is not certain which ones were heard (our choice). */
const MANY = 0.25;

/**
 * Where a long repetition is looked at on its way: for each bar but the last, when it is behind and which note comes next, in order. None
 * where it is short, or where its notes have no places in time of their own.
 */
export const looksOnTheWay = (expectation: Expectation): { atS: number; next: number }[] => {
  const { drill, plan } = expectation;
  const lines = barStarts(drill.grid).map((line) => line.valueOf());
  if (drill.grid.bars <= SHORT_BARS || !canBreakOff(drill)) return [];
  const { nearS } = offsetToTry(expectation);
  return lines.slice(1, drill.grid.bars).flatMap((line) => {
    const next = plan.notes.findIndex(({ beat }) => beat >= line);
    const note = plan.notes[next];
    return next > 0 && note ? [{ atS: note.timeS + nearS + BEHIND_S, next }] : [];
  });
};

/**
 * The notes before `next` as they were heard; null where it may still turn out that they were others: the delay of the sound is not known
 * yet and would do as well a note earlier or later, or it is played otherwise than asked, or cannot be judged.
 */
export const barsBehind = (onsets: readonly Onset[], expectation: Expectation, next: number): BarsBehind | null => {
  const { notes, measures, verdict, shiftDoubtful } = analyseUntil(onsets, { ...expectation, gap: false }, next);
  const isOtherwise = measures.playedAs !== undefined && measures.playedAs.kind !== 'stumble';
  const isApart = measures.missed + measures.extra > MANY * next;
  if (shiftDoubtful || isOtherwise || isApart || verdict.outcome === 'not-judged') return null;
  return { repetition: expectation.repetition, notes, measures };
};
