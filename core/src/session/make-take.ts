import { ENGINE_VERSION } from '../engine-version';
import type { Drill } from '../schema/grid';
import type { Passage } from '../schema/passage';
import type { PracticeConfigKey } from '../schema/practice-config';
import type { Gap, InputKind, Repetition, Take } from '../schema/take';
import type { Tolerance } from '../schema/tolerance';
import { isWithoutClick } from '../time/repetition-plan';
import { deriveTake } from './derive-take';

/** What a take is made of. */
export interface TakeParts {
  id: string;
  sessionId: string;
  passage: Pick<Passage, 'title' | 'revision'>;
  config: PracticeConfigKey;
  startedAt: Date;
  endedAt: Date | null;
  input: InputKind;
  goalBpm: number;
  startBpm: number;
  /** What it is played for; to get on where nothing is said. */
  purpose?: Take['purpose'];
  strategy: Take['strategy'];
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

/** Makes a take document: the one place where one is made. */
export const makeTake = (parts: TakeParts): Take => {
  const {
    passage,
    config,
    startedAt,
    endedAt,
    profileId,
    drills,
    repetitions,
    file,
    goalBpm,
    gaps = [],
    purpose = 'work',
    ...rest
  } = parts;
  const { passageId, variantId, sectionId } = config;
  return deriveTake({
    ...rest,
    revision: 0,
    purpose,
    note: '',
    passageId,
    variantId,
    sectionId,
    title: passage.title,
    passageRevision: passage.revision,
    startedAt: startedAt.toISOString(),
    endedAt: endedAt?.toISOString() ?? null,
    engine: ENGINE_VERSION,
    goalBpm,
    summary: null,
    profile: profileId,
    withoutClick: file?.withoutClick ?? drills.every(isWithoutClick),
    sourceFile: file?.name.slice(0, 200) ?? '',
    hasRecording: false,
    gaps,
    ...playedDrills(drills, repetitions),
  });
};

/**
 * The drills that were played, in the order in which they were first played, those that were chosen before what the strategy asked for: of
 * many, most may not have been reached.
 */
const playedDrills = (drills: readonly Drill[], repetitions: readonly Repetition[]): Pick<Take, 'drills' | 'repetitions'> => {
  const used = [...new Set(repetitions.map(({ drill }) => drill))];
  const chosen = used.filter((place) => !drills[place]?.repetitionKind);
  // A take is one of what was chosen, whatever came of it.
  const places = [...(chosen.length ? chosen : [0]), ...used.filter((place) => drills[place]?.repetitionKind)];
  return {
    drills: places.map((place) => drills[place] as Drill),
    repetitions: repetitions.map((repetition) => ({ ...repetition, drill: places.indexOf(repetition.drill) })),
  };
};

/** A take that was broken off, completed as it stands. */
export const completeTake = (take: Take, endedAt: Date): Take =>
  deriveTake({ ...take, endedAt: take.endedAt ?? endedAt.toISOString() });
