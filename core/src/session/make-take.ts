import { ENGINE_VERSION } from '../engine-version';
import { closeTake } from '../plan/close-take';
import type { CourseKey } from '../schema/course';
import type { Drill } from '../schema/grid';
import type { Passage } from '../schema/passage';
import type { Gap, InputKind, Repetition, Take } from '../schema/take';
import type { Tolerance } from '../schema/tolerance';
import { isWithoutClick } from '../time/repetition-plan';

/** What a take is made of. */
export interface TakeParts {
  id: string;
  sittingId: string;
  passage: Pick<Passage, 'title' | 'revision'>;
  course: CourseKey;
  startedAt: Date;
  endedAt: Date | null;
  input: InputKind;
  goalBpm: number;
  startBpm: number;
  school: Take['school'];
  tolerance: Tolerance;
  latencyS: number | null;
  profileId: string;
  drills: Drill[];
  repetitions: Repetition[];
  /** Sound that is missing from its recording; none where nothing is said. */
  gaps?: Gap[];
  /** For a file: its name, and whether it was played without a click. */
  file?: { name: string; withoutClick: boolean };
}

/** Makes a take document: the one place where one is made. It closes with its last repetition where it has ended. */
export const makeTake = (parts: TakeParts): Take => {
  const { passage, course, startedAt, endedAt, profileId, drills, repetitions, file, goalBpm, gaps = [], ...rest } = parts;
  const { passageId, variantId, sectionId } = course;
  return {
    ...rest,
    revision: 0,
    passageId,
    variantId,
    sectionId,
    title: passage.title,
    passageRevision: passage.revision,
    startedAt: startedAt.toISOString(),
    endedAt: endedAt?.toISOString() ?? null,
    engine: ENGINE_VERSION,
    goalBpm,
    closing: endedAt ? closeTake(repetitions, goalBpm, rest.startBpm) : null,
    profile: profileId,
    withoutClick: file?.withoutClick ?? drills.every(isWithoutClick),
    sourceFile: file?.name.slice(0, 200) ?? '',
    hasRecording: false,
    gaps,
    drills,
    repetitions,
  };
};

/** A take that was broken off, completed as it stands. */
export const completeTake = (take: Take, endedAt: Date): Take => ({
  ...take,
  endedAt: take.endedAt ?? endedAt.toISOString(),
  closing: closeTake(take.repetitions, take.goalBpm, take.startBpm),
});
