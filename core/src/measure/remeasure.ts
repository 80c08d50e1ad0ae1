import { SETTLED_OFFSET_S } from '../align/align';
import type { Drill } from '../schema/grid';
import type { NoteResult, Onset } from '../schema/measures';
import type { Edit, Repetition, Take } from '../schema/take';
import { profileOf } from '../signal/profiles';
import { median } from '../stats/summary';
import { expectedNotes } from '../time/repetition-plan';
import { type AnalysisContext, analyseRepetition, storedFigures } from './analyse-repetition';
import { otherLevelFor } from './dynamics';
import { broughtBy } from './measure-repetition';

/** The onset that a note was played with. */
const onsetOf = (note: NoteResult): Onset | null =>
  note.onsetS === null ? null : { timeS: note.onsetS, levelDb: note.levelDb ?? 0, ...broughtBy(note) };

const inTime = (onsets: readonly Onset[]): Onset[] => [...onsets].sort((a, b) => a.timeS - b.timeS);

/** All onsets of a repetition, in order of time. */
export const onsetsOfRepetition = ({ notes, extras }: Pick<Repetition, 'notes' | 'extras'>): Onset[] =>
  inTime([...notes.flatMap((note) => onsetOf(note) ?? []), ...extras]);

/** Where a stored repetition's constant offset lies: the take's latency, or where its notes were found. */
const storedOffset = (take: Pick<Take, 'latencyS'>, notes: readonly NoteResult[]) => {
  const deviations = notes.flatMap((note) => (note.onsetS === null ? [] : [note.onsetS - note.expectedS]));
  return { nearS: take.latencyS ?? (deviations.length ? median(deviations) : 0), reachS: SETTLED_OFFSET_S };
};

/** What an analysis of a stored repetition needs to know: all of it from the take itself, never from the passage as it is now. */
export const storedContext = (
  take: Pick<Take, 'latencyS' | 'tolerance' | 'profile' | 'drills' | 'repetitions'>,
  { index, notes, tempo, downbeatS, verdict, measures, drill: which }: Repetition,
): AnalysisContext => {
  const drill = take.drills[which] as Drill;
  return {
    drill,
    plan: { notes: expectedNotes(drill.grid, tempo, downbeatS) },
    profile: profileOf(take.profile),
    tolerance: take.tolerance,
    latencyS: take.latencyS,
    offset: storedOffset(take, notes),
    gap: verdict.reason === 'gap',
    ...(measures.brokenOff ? { brokenOffAt: measures.brokenOff.note } : {}),
    ...(measures.brokenOff?.byHand ? { isByHand: true } : {}),
    otherLevel: otherLevelFor(
      drill,
      take.drills,
      take.repetitions.filter((one) => one.index < index),
    ),
  };
};

const withOnsets = (take: Take, repetition: Repetition, onsets: readonly Onset[], edits: Edit[]): Repetition => {
  const analysed = analyseRepetition(onsets, { ...storedContext(take, repetition), ownOnsets: true });
  const { edits: _, ...rest } = repetition;
  return { ...rest, ...storedFigures(analysed), ...(edits.length ? { edits } : {}) };
};

/** Onsets this close are the same one. */
const SAME_S = 0.0005;
const without = (onsets: readonly Onset[], gone: Onset): Onset[] =>
  onsets.filter((one) => Math.abs(one.timeS - gone.timeS) > SAME_S);

/** A repetition with one onset added or taken away by hand, remeasured; the correction is remembered. */
export const editRepetition = (take: Take, repetition: Repetition, edit: Edit): Repetition => {
  const before = onsetsOfRepetition(repetition);
  const onsets = edit.kind === 'add' ? inTime([...before, edit.onset]) : without(before, edit.onset);
  return withOnsets(take, repetition, onsets, [...(repetition.edits ?? []), edit]);
};

/** A repetition without its last correction by hand, remeasured. */
export const undoEdit = (take: Take, repetition: Repetition): Repetition => {
  const edits = repetition.edits ?? [];
  const last = edits.at(-1);
  if (!last) return repetition;
  const before = onsetsOfRepetition(repetition);
  const onsets = last.kind === 'add' ? without(before, last.onset) : inTime([...before, last.onset]);
  return withOnsets(take, repetition, onsets, edits.slice(0, -1));
};
