import { isOnEvenBeats } from '../beats/even-beats';
import { sameGrid } from '../rhythm/grid-shape';
import type { Drill, Grid } from '../schema/grid';
import type { NoteResult } from '../schema/measures';
import type { Repetition, Take } from '../schema/take';
import { median } from '../stats/summary';
import { type BreakingPlace, breakingPlace } from './breaking-place';
import { type ClockMotor, clockMotorSplit } from './clock-motor';
import { detrended } from './detrended';
import { type Explained, explain } from './explanation';
import { type LabelDifference, labelDifferences } from './label-differences';
import { centredDeviationsMs, type Position, positionProfile } from './position-profile';
import { type ScatteringNote, scatteringNote } from './scattering-note';
import { MIN_REPETITIONS, usableRepetitions } from './usable';
import { type VarianceComponents, varianceComponents } from './variance-components';
import { type Link, weakLinks } from './weak-links';

/** What a take's repetitions say together. */
export interface AcrossRepetitions {
  /** How many repetitions say it: those judged and not broken off, to beats that are even of themselves. */
  count: number;
  /** How many were left out of all but the profile, because the beats of a recording that they were played to are not. */
  onUnevenBeats: number;
  profile: Position[];
  components: VarianceComponents | null;
  /** The bar in which it breaks again and again. */
  breaking: BreakingPlace | null;
  /** What is the same every time, and what explains it; null where there is too little to tell. */
  explained: Explained | null;
  /** The one note that comes out different every time. */
  scattering: ScatteringNote | null;
  /** The shortest step between two notes, in ms, at the tempo in the middle of all. */
  stepMs: number;
  /** Weakest first. */
  links: Link[];
  labels: LabelDifference[];
  /** Only where there was no click to follow. */
  clockMotor: ClockMotor | null;
}

/** The intervals of the longest unbroken run of one nominal length, in ms. */
const longestEvenRun = (notes: readonly NoteResult[]): number[] => {
  let best: number[] = [];
  let run: number[] = [];
  let lengthS = Number.NaN;
  notes.slice(1).forEach((note, k) => {
    const before = notes[k] as NoteResult;
    const expectedS = note.expectedS - before.expectedS;
    const sounded = note.onsetS !== null && before.onsetS !== null;
    if (!sounded || Math.abs(expectedS - lengthS) > 1e-6) run = [];
    lengthS = expectedS;
    if (sounded) run.push(((note.onsetS as number) - (before.onsetS as number)) * 1000);
    if (run.length > best.length) best = [...run];
  });
  return best;
};

/** The notes of the repetitions that say something: judged, not broken off, to beats that are even of themselves. */
export const comparableNotes = (repetitions: readonly Repetition[]): NoteResult[][] =>
  usableRepetitions(repetitions)
    .filter(isOnEvenBeats)
    .map(({ notes }) => notes);

/** The shortest step between two notes, in ms, at the tempo in the middle of all repetitions. */
export const stepMsOf = (repetitions: readonly (readonly NoteResult[])[]): number =>
  median(
    repetitions.map((notes) =>
      Math.min(...notes.slice(1).map(({ expectedS }, k) => 1000 * (expectedS - (notes[k] as NoteResult).expectedS))),
    ),
  );

/** Repetitions of one grid. */
export interface GridRepetitions {
  grid: Grid;
  repetitions: Repetition[];
}

/**
 * The repetitions of takes by the grid that they played: only what shares a grid may be put together. The grid with the most
 * repetitions comes first.
 */
export const byGrid = (takes: readonly Pick<Take, 'drills' | 'repetitions'>[]): GridRepetitions[] => {
  const groups: GridRepetitions[] = [];
  for (const { drills, repetitions } of takes) {
    for (const repetition of repetitions) {
      const { grid } = drills[repetition.drill] as Drill;
      const group = groups.find((one) => sameGrid(one.grid, grid));
      if (group) group.repetitions.push(repetition);
      else groups.push({ grid, repetitions: [repetition] });
    }
  }
  return groups.sort((a, b) => b.repetitions.length - a.repetitions.length);
};

/** The repetitions of takes that play a grid, whichever take they are of. */
export const ofGrid = (takes: readonly Pick<Take, 'drills' | 'repetitions'>[], grid: Grid): GridRepetitions =>
  byGrid(takes).find((group) => sameGrid(group.grid, grid)) ?? { grid, repetitions: [] };

/**
 * Everything that repetitions of one grid say together. `withoutClick` says that the player had no click while playing: then
 * the longest run of even notes of each is split into clock and motor.
 */
export const acrossRepetitions = ({ grid, repetitions }: GridRepetitions, withoutClick: boolean): AcrossRepetitions => {
  const all = usableRepetitions(repetitions);
  const usable = comparableNotes(repetitions);
  const data = detrended(usable);
  const centred = usable.map(centredDeviationsMs);
  const positions = (usable[0] ?? []).map((_, k) => centred.flatMap((row) => row[k] ?? []));
  const runs = withoutClick ? usable.map(longestEvenRun) : [];
  return {
    count: usable.length,
    onUnevenBeats: all.length - usable.length,
    profile: positionProfile(all.map(({ notes }) => notes)),
    components: varianceComponents(positions),
    breaking: breakingPlace(grid, repetitions),
    explained: explain(usable, grid.events, data),
    scattering: data && usable.length >= MIN_REPETITIONS ? scatteringNote(data) : null,
    stepMs: stepMsOf(usable),
    links: weakLinks(usable),
    labels: labelDifferences(usable, grid.events),
    clockMotor: clockMotorSplit(runs),
  };
};
