import type { GridEvent } from '../schema/grid';
import type { NoteResult, Onset } from '../schema/measures';
import type { ExpectedNote } from '../time/repetition-plan';

/** A grace note takes no longer than this, and a rolled chord reaches no farther from its beat: common practice, our choice of figures. */
const GRACE_S = 0.15;
const ROLL_S = 0.3;
/** What is drawn before a note takes so much of the interval before it at most. */
const SHARE_BEFORE = 0.8;

interface Span {
  fromS: number;
  toS: number;
}

const gracesAt = (event: GridEvent | undefined): number =>
  Math.max(0, ...(event?.notes.map((note) => note.graces?.length ?? 0) ?? []));
const hasOrnament = (event: GridEvent | undefined): boolean => event?.notes.some(({ printed }) => printed?.ornament) ?? false;

/** Notes without the second attack that belongs to what is written: of a grace note before them, or of a stick that is to rebound. */
export const withoutWrittenDoubles = (results: readonly NoteResult[], events: readonly GridEvent[]): NoteResult[] =>
  results.map((result) => {
    const event = events[result.index];
    if (result.doubleAttackMs === undefined || !(gracesAt(event) > 0 || hasOrnament(event))) return result;
    const { doubleAttackMs: _, ...plain } = result;
    return plain;
  });

/** From when to when what is drawn at a note, and not measured, may sound; null where nothing is. */
const spanOf = (event: GridEvent | undefined, own: ExpectedNote, before: ExpectedNote | undefined): Span | null => {
  const graces = gracesAt(event);
  const isOrnamented = hasOrnament(event);
  const isRolled = event?.notes.some(({ printed }) => printed?.arpeggio) ?? false;
  if (graces === 0 && !isOrnamented && !isRolled) return null;
  const free = before ? SHARE_BEFORE * (own.timeS - before.timeS) : Infinity;
  const earlyS = Math.min(free, Math.max(GRACE_S * graces, isRolled ? ROLL_S : 0));
  // Grace notes may begin on the beat, with their note after it.
  const lateS = isOrnamented ? own.intervalS : Math.min(SHARE_BEFORE * own.intervalS, isRolled ? ROLL_S : GRACE_S * graces);
  return { fromS: own.timeS - earlyS, toS: own.timeS + lateS };
};

/**
 * The onsets beyond the written notes that nothing on the page asks for: those of grace notes, ornaments and rolled chords are left out.
 *
 * @param offsetS how much later everything was heard than it was expected
 */
export const unwritten = (
  extras: readonly Onset[],
  events: readonly GridEvent[],
  notes: readonly ExpectedNote[],
  offsetS: number,
): Onset[] => {
  const spans = notes.flatMap((note, k) => spanOf(events[note.index], note, notes[k - 1]) ?? []);
  if (spans.length === 0) return [...extras];
  return extras.filter(({ timeS }) => !spans.some(({ fromS, toS }) => timeS - offsetS >= fromS && timeS - offsetS < toS));
};
