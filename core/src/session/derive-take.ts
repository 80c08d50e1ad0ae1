import { ENGINE_VERSION } from '../engine-version';
import { type DailySummary, dailySummaryOf } from '../plan/daily-summary';
import { practiceModeOf } from '../plan/practice-config';
import { summariseTake } from '../plan/summarise-take';
import type { Drill } from '../schema/grid';
import type { Repetition, Take } from '../schema/take';
import { startAfter } from '../strategies/strategies';
import { type ExpectedNote, expectedNotes } from '../time/repetition-plan';
import { verdictOf } from '../verdict/verdict-of';

/** The notes as they were expected. A tempo of the player's own is stored rounded: the times of the notes are not. */
const expectedOf = ({ notes, tempo, downbeatS }: Repetition, { grid }: Drill): ExpectedNote[] =>
  expectedNotes(grid, tempo, downbeatS).map((expected, k, all) => {
    const [timeS, nextS, beforeS] = [k, k + 1, k - 1].map((place) => notes[place]?.expectedS);
    if (timeS === undefined || notes.length !== all.length || all.length < 2) return expected;
    return { ...expected, timeS, intervalS: nextS !== undefined ? nextS - timeS : timeS - (beforeS as number) };
  });

const judgedAgain = ({ drills, tolerance, latencyS }: Take, repetition: Repetition): Repetition => {
  const { measures, verdict: said } = repetition;
  const drill = drills[repetition.drill] as Drill;
  const notes = expectedOf(repetition, drill);
  const recording = said.reason === 'gap' || said.reason === 'bleed' ? said.reason : null;
  return { ...repetition, verdict: verdictOf({ notes, measures, tolerance, latencyS, judging: drill.judging, recording }) };
};

/**
 * A take with everything that follows from what was measured of it: the verdict of each repetition, and how the take closed. Whoever
 * stores a take stores it like this: one that was played, corrected, merged, measured again or read from a file. Verdicts that an
 * earlier engine gave stand, since they go with its measures; a line of a log has its player's word for it, and nothing was measured.
 */
export const deriveTake = (take: Take): Take => derived(take, null);

/** A take with a repetition that was measured again just now, by this engine, in the place of the one of its index. */
export const withRepetition = (take: Take, repetition: Repetition): Take =>
  derived(
    { ...take, repetitions: take.repetitions.map((one) => (one.index === repetition.index ? repetition : one)) },
    repetition,
  );

/** A take derived; `measuredNow` is the repetition of it that this engine measured, whichever measured the take. */
const derived = (take: Take, measuredNow: Repetition | null): Take => {
  const { input, engine, endedAt, goalBpm, startBpm } = take;
  if (input === 'log') return take;
  const repetitions = take.repetitions.map((one) =>
    engine === ENGINE_VERSION || one === measuredNow ? judgedAgain(take, one) : one,
  );
  const summary =
    endedAt === null ? null : summariseTake({ ...take, repetitions }, goalBpm, startBpm, startAfter(take.strategy));
  return { ...take, repetitions, summary };
};

/** What lists, plans and years of practice know of a take without its repetitions. */
export interface TakeFigures extends DailySummary {
  /** The methods that it was played by, or what it was played for. */
  practiceMode: string;
  repetitionCount: number;
  cleanCount: number;
}

/** How many repetitions of what was chosen were played, and clean: a sweep is meant to break, and a burst to be wild. */
const countsOf = ({ repetitions, drills }: Take) => {
  const chosen = repetitions.filter(({ drill }) => !drills[drill]?.repetitionKind);
  return { repetitionCount: chosen.length, cleanCount: chosen.filter(({ verdict }) => verdict.outcome === 'clean').length };
};

/** The figures of a derived take. */
export const figuresOf = (take: Take): TakeFigures => ({
  ...dailySummaryOf(take),
  practiceMode: practiceModeOf(take),
  ...countsOf(take),
});
