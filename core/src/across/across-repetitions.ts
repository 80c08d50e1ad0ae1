import { inOrder } from '../rhythm/exercise-shape';
import type { Exercise } from '../schema/exercise';
import type { NoteResult } from '../schema/measures';
import type { Repetition } from '../schema/take';
import { type ClockMotor, clockMotorSplit } from './clock-motor';
import { type LabelDifference, labelDifferences } from './label-differences';
import { centredDeviationsMs, type Position, positionProfile } from './position-profile';
import { usableRepetitions } from './usable';
import { type VarianceComponents, varianceComponents } from './variance-components';
import { type Link, weakLinks } from './weak-links';

/** What a take's repetitions say together. */
export interface AcrossRepetitions {
  /** How many repetitions say it: those judged and not broken off. */
  count: number;
  profile: Position[];
  components: VarianceComponents | null;
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

/**
 * Everything that a take's repetitions say together. `withoutClick` says that the player had no click while playing: then the
 * longest run of even notes is split into clock and motor.
 */
export const acrossRepetitions = (
  exercise: Pick<Exercise, 'events'>,
  repetitions: readonly Repetition[],
  withoutClick: boolean,
): AcrossRepetitions => {
  const usable = usableRepetitions(repetitions).map((repetition) => repetition.notes);
  const centred = usable.map(centredDeviationsMs);
  const positions = (usable[0] ?? []).map((_, k) => centred.flatMap((row) => row[k] ?? []));
  const events = inOrder(exercise.events);
  const runs = withoutClick ? usable.map(longestEvenRun) : [];
  const longest = runs.reduce<number[]>((best, run) => (run.length > best.length ? run : best), []);
  return {
    count: usable.length,
    profile: positionProfile(usable),
    components: varianceComponents(positions),
    links: weakLinks(usable),
    labels: labelDifferences(usable, events),
    clockMotor: clockMotorSplit(longest),
  };
};
