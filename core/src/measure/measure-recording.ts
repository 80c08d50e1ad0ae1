import { align } from '../align/align';
import { mergeDoubleAttacks } from '../align/merge-double-attacks';
import type { Measures, NoteResult, Onset } from '../schema/measures';
import type { Tolerance } from '../schema/tolerance';
import type { Verdict } from '../schema/verdict';
import { type ExpectedNote, shortestIntervalMs } from '../time/repetition-plan';
import { intervalMs } from '../time/tempo';
import { judgeSurely, notJudged } from '../verdict/judge';
import { judgedOf } from '../verdict/judged';
import { filterDoubleAttacks } from './attack-faults';
import { isCertain } from './certainty';
import { measureRepetition, noteResults } from './measure-repetition';

/** An even grid: `notesPerBeat` notes to each of `beats` beats, the first at `startS` of the recording. */
export interface EvenGrid {
  tempoBpm: number;
  notesPerBeat: number;
  beats: number;
  startS: number;
}

/** The expected notes of an even grid. */
export const evenGridNotes = ({ tempoBpm, notesPerBeat, beats, startS }: EvenGrid): ExpectedNote[] => {
  const intervalS = intervalMs(tempoBpm, notesPerBeat) / 1000;
  return Array.from({ length: Math.round(beats * notesPerBeat) }, (_, index) => ({
    index,
    timeS: startS + index * intervalS,
    beat: index / notesPerBeat,
    intervalS,
    accent: false,
  }));
};

/** What a recording of one even run came to. */
export interface MeasuredRecording {
  notes: NoteResult[];
  extras: Onset[];
  measures: Measures;
  verdict: Verdict;
}

/** Measures a recording's onsets against the notes that are expected in it; no latency is taken off. */
export const measureRecording = (
  heard: readonly Onset[],
  notes: readonly ExpectedNote[],
  tolerance: Tolerance,
): MeasuredRecording => {
  const onsets = mergeDoubleAttacks(filterDoubleAttacks(heard), shortestIntervalMs(notes) / 1000);
  const alignment = align(
    notes,
    onsets.map((onset) => onset.timeS),
  );
  const results = noteResults(notes, onsets, alignment, 0);
  const extras = alignment.extra.map((index) => onsets[index] as Onset);
  const measures = measureRepetition({ notes, results, extra: extras.filter(isCertain).length, tolerance });
  const verdict =
    onsets.length === 0 ? notJudged('silence') : judgeSurely(judgedOf(notes, measures, tolerance, false), measures);
  return { notes: results, extras, measures, verdict };
};
