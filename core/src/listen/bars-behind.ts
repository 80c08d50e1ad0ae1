import { type OffsetGuess, SETTLED_OFFSET_S } from '../align/align';
import { offsetToTry, pairNotes } from '../measure/analyse-repetition';
import { barStarts } from '../schema/frame';
import type { Measures, NoteResult, Onset } from '../schema/measures';
import { median } from '../stats/summary';
import { canBreakOff } from './completion';
import type { Expectation } from './expectation';

/** What was heard of the bars that are over, while the repetition still sounds. */
export interface BarsBehind {
  repetition: number;
  notes: NoteResult[];
  /** The middle of the deviations so far: what they are shown from where the latency is not known. */
  centreMs: NonNullable<Measures['centreMs']>;
}

/** A repetition of more bars than these is long: what is behind is shown before its end (our choice: a line or two of the page). */
const SHORT_BARS = 4;
/** A bar is behind so long after its end, in seconds: its last note is certain by then. */
const BEHIND_S = 0.3;
/** So many bars are looked at together: those before are as they were told. */
const LOOK_BARS = 3;
/** With more notes than this missed or added, as a share of all, it is not certain which ones were heard (our choice). */
const MANY = 0.25;
/** A first look over so many bars that told nothing is the last one: it is played otherwise than asked. */
const TRIED_BARS = 8;

interface Look {
  atS: number;
  next: number;
}

/** For each bar but the last, when it is behind and which note comes next. None where it is short, swung, or notes have no places in time. */
const looksOnTheWay = (expectation: Expectation): Look[] => {
  const { drill, plan } = expectation;
  if (drill.grid.bars <= SHORT_BARS || drill.grid.swing !== undefined || !canBreakOff(drill)) return [];
  const { nearS } = offsetToTry(expectation);
  const lines = barStarts(drill.grid).map((line) => line.valueOf());
  return lines.slice(1, drill.grid.bars).flatMap((line) => {
    const next = plan.notes.findIndex(({ beat }) => beat >= line);
    const note = plan.notes[next];
    return next > 0 && note ? [{ atS: note.timeS + nearS + BEHIND_S, next }] : [];
  });
};

/**
 * Looks at what is behind of a long repetition, once after each of its bars: gives the notes so far, or null where there is nothing new, or
 * where it may still turn out that they were others. Only the latest bars are paired, so that a look takes as long in bar 100 as in bar 5.
 */
export const watchBehind = (
  expectation: Expectation,
): ((nowS: number, onsets: () => readonly Onset[]) => BarsBehind | null) => {
  const looks = looksOnTheWay(expectation);
  const ends: number[] = [];
  let told: NoteResult[] = [];
  let offset: OffsetGuess = offsetToTry(expectation);
  return (nowS, onsets) => {
    const due = looks.findLastIndex(({ atS }) => atS <= nowS);
    if (due < 0) return null;
    // Of several bars that are over by now the last look tells.
    const passed = looks.splice(0, due + 1).map(({ next }) => next);
    const before = told.length;
    ends.push(...passed);
    const next = passed.at(-1) as number;
    const from = before === 0 ? 0 : Math.min(before, ends.at(-1 - LOOK_BARS) ?? 0);
    const paired = pairNotes(onsets(), expectation, [from, next], offset);
    const missed = paired.notes.filter(({ onsetS }) => onsetS === null).length;
    const isKnown = offset.reachS <= SETTLED_OFFSET_S;
    if (missed + paired.extra > MANY * (next - from) || (paired.ambiguous && !isKnown)) {
      if (before === 0 && ends.length >= TRIED_BARS) looks.length = 0;
      return null;
    }
    offset = { nearS: paired.offsetS, reachS: SETTLED_OFFSET_S };
    told = [...told.slice(0, from), ...paired.notes];
    const deviations = told.flatMap(({ deviationMs }) => deviationMs ?? []);
    return { repetition: expectation.repetition, notes: told, centreMs: median(deviations) };
  };
};
