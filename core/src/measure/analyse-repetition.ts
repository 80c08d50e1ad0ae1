import { type Alignment, align, type OffsetGuess, SETTLED_OFFSET_S } from '../align/align';
import { notesPerBeat } from '../rhythm/exercise-shape';
import type { Exercise } from '../schema/exercise';
import type { Measures, NoteResult, Onset } from '../schema/measures';
import type { Verdict } from '../schema/verdict';
import type { RepetitionPlan } from '../time/repetition-plan';
import { intervalMs } from '../time/tempo';
import { judge, notJudged } from '../verdict/judge';
import { type Tolerance, toleranceWindowMs } from '../verdict/tolerance';
import { measureRepetition, noteResults } from './measure-repetition';

/** Everything that is known of a repetition once it was played. */
export interface AnalysedRepetition {
  notes: NoteResult[];
  extras: Onset[];
  measures: Measures;
  verdict: Verdict;
  /** The constant offset that the pairing allowed for: the next repetition's best guess of the latency. */
  offsetS: number;
  /** True where the notes fit a whole interval earlier or later about as well. */
  shiftDoubtful: boolean;
}

/** What an analysis needs to know besides the onsets. */
export interface AnalysisContext {
  exercise: Exercise;
  plan: RepetitionPlan;
  tolerance: Tolerance;
  /** The calibrated latency in seconds, or null where there is none. */
  latencyS: number | null;
  /** Where an uncalibrated pairing looks for the latency. */
  offset: OffsetGuess;
  /** True where the recording has a gap inside the repetition. */
  gap: boolean;
}

/** Where the constant offset is looked for: close to the calibrated latency, or where the loop's experience points. */
export const offsetToTry = ({ latencyS, offset }: Pick<AnalysisContext, 'latencyS' | 'offset'>): OffsetGuess =>
  latencyS === null ? offset : { nearS: latencyS, reachS: SETTLED_OFFSET_S };

/** How many onsets must be paired before a repetition is worth judging. */
const HEARD_SHARE = 0.1;

/**
 * From the onsets of one repetition to its notes, measures and verdict: the middle of the line
 * capture → onsets → align → measure → verdict → ladder. Onsets outside the repetition's reach are left out.
 */
export const analyseRepetition = (onsets: readonly Onset[], context: AnalysisContext): AnalysedRepetition => {
  const { exercise, plan, tolerance, latencyS, gap } = context;
  const { notes } = plan;
  const offset = offsetToTry(context);
  const near = onsetsInReach(onsets, plan, offset);
  const times = near.map((onset) => onset.timeS);
  const alignment: Alignment = align(notes, times, offset);
  const results = noteResults(notes, near, alignment, latencyS ?? 0);
  const extras = alignment.extra.map((index) => near[index] as Onset);
  const measures = measureRepetition({ notes, results, extra: extras.length, tempoBpm: plan.tempoBpm, tolerance });
  const shortestMs = intervalMs(plan.tempoBpm, notesPerBeat(exercise));
  const heard = notes.length - measures.missed >= HEARD_SHARE * notes.length;
  const verdict = gap
    ? notJudged('gap')
    : !heard
      ? notJudged('silence')
      : judge({
          measures,
          tolerance,
          noteCount: notes.length,
          windowMs: toleranceWindowMs(tolerance, shortestMs),
          intervalMs: shortestMs,
          asksAccents: notes.some((note) => note.accent),
          calibrated: latencyS !== null,
        });
  return { notes: results, extras, measures, verdict, offsetS: alignment.offsetS, shiftDoubtful: alignment.ambiguous };
};

/** The onsets that can belong to a repetition: from just before its first note to just after its last. */
const onsetsInReach = (onsets: readonly Onset[], plan: RepetitionPlan, { nearS, reachS }: OffsetGuess): Onset[] => {
  const first = plan.notes[0];
  const last = plan.notes.at(-1);
  if (!first || !last) return [];
  const from = first.timeS + nearS - 0.75 * first.intervalS;
  const to = last.timeS + nearS + Math.max(reachS, Math.min(0.75 * last.intervalS, 0.5));
  return onsets.filter((onset) => onset.timeS >= from && onset.timeS <= to);
};
