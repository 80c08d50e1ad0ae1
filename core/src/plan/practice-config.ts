import { gridOf } from '../rhythm/grid-of';
import { combinedDrills, rotatedDrills } from '../rhythm/methods/methods';
import type { Drill, Grid, MethodUse } from '../schema/grid';
import type { Passage, Section, Variant } from '../schema/passage';
import {
  FIRST_VARIANT,
  type PracticeConfig,
  type PracticeConfigChange,
  practiceConfigId,
  type StrategySnapshot,
  WHOLE,
} from '../schema/practice-config';
import { DEFAULT_SETTINGS, type Settings } from '../schema/settings';
import type { Take } from '../schema/take';

/** As much of a passage as its courses are told by. */
export interface ConfigurablePassage {
  id: string;
  goalBpm: number;
  variants: readonly { id: string }[];
  sections: readonly { id: string }[];
}

/** The course of a passage that was never practised: its own goal, the player's usual school, straight. */
export const newPracticeConfig = (
  passage: ConfigurablePassage,
  settings: Pick<Settings, 'schoolId' | 'schoolOptions'>,
): PracticeConfig => ({
  passageId: passage.id,
  variantId: passage.variants[0]?.id ?? FIRST_VARIANT,
  sectionId: WHOLE,
  goalBpm: passage.goalBpm,
  goalDay: null,
  schoolId: settings.schoolId,
  schools: Object.fromEntries(
    Object.entries(settings.schoolOptions).map(([id, options]) => [id, { options, state: null } as StrategySnapshot]),
  ),
  methodId: 'straight',
  methodParameters: {},
  alsoMethodId: null,
  rotates: false,
  click: null,
  last: null,
  others: {},
  overshootPct: 0,
  relaxedFinish: false,
  leastRepetitions: 1,
  restBars: 0,
  along: null,
  readiness: {},
});

/** What of a passage is practised: a variant and a section by their ids; the first marks and the whole where nothing is said. */
export interface Selection {
  variantId?: string;
  sectionId?: string;
}

/** The course of a passage, or of a part of it, as stored, or a new one. */
export const practiceConfigOf = (
  courses: readonly PracticeConfig[],
  passage: ConfigurablePassage,
  settings: Pick<Settings, 'schoolId' | 'schoolOptions'>,
  part: Selection = {},
): PracticeConfig => {
  const fresh = newPracticeConfig(passage, settings);
  const variantId = passage.variants.some(({ id }) => id === part.variantId) ? (part.variantId as string) : fresh.variantId;
  const sectionId = passage.sections.some(({ id }) => id === part.sectionId) ? (part.sectionId as string) : WHOLE;
  const own: PracticeConfig = { ...fresh, variantId, sectionId };
  const id = practiceConfigId(own);
  return courses.find((course) => practiceConfigId(course) === id) ?? own;
};

/** The variant and the section that a course is about; null for unmarked notes, and for the whole. */
const selectionOf = (passage: Passage, course: PracticeConfig): { variant: Variant | null; section: Section | null } => ({
  variant: passage.variants.find(({ id }) => id === course.variantId) ?? null,
  section: passage.sections.find(({ id }) => id === course.sectionId) ?? null,
});

/** The methods that a course is practised by, with their parameters. */
const methodsOf = ({ methodId, alsoMethodId, methodParameters }: PracticeConfig): MethodUse[] =>
  [methodId, ...(alsoMethodId && alsoMethodId !== methodId ? [alsoMethodId] : [])].map((id) => ({
    id,
    parameters: methodParameters[id] ?? {},
  }));

/** The drills that a course asks for on a day: passage → variant, section → grid → methods → drills, under the course's click. */
export const drillsOfConfig = (passage: Passage, course: PracticeConfig, day = 0): Drill[] => {
  const { variant, section } = selectionOf(passage, course);
  const drills = combinedDrills(gridOf(passage, variant, section), methodsOf(course));
  const { click } = course;
  const clicked = click ? drills.map((drill) => ({ ...drill, click })) : drills;
  return course.rotates ? rotatedDrills(clicked, day) : clicked;
};

/** The grid of the whole of a passage with its first marks. */
export const passageGrid = (passage: Passage): Grid => gridOf(passage, passage.variants[0] ?? null);

/** The grid of the whole of a passage with the marks of one of its variants, the first where the id is unknown. */
export const variantGrid = (passage: Passage, variantId: string | undefined): Grid =>
  gridOf(passage, passage.variants.find(({ id }) => id === variantId) ?? passage.variants[0] ?? null);

/** The first of a course's drills. */
export const drillOf = (passage: Passage, course: PracticeConfig): Drill => drillsOfConfig(passage, course)[0] as Drill;

/** The drill of a passage that was never practised: straight, with its first marks. */
export const firstDrill = (passage: Passage): Drill => drillOf(passage, newPracticeConfig(passage, DEFAULT_SETTINGS));

const STRAIGHT = 'straight';
/** Along with a recording is a way of its own: its tempo is not the click's. */
const ALONG = 'along';

/** One name for the methods of a course or a drill: what was played by them is kept under it. */
const practiceModeId = (ids: readonly (string | null | undefined)[]): string => ids.filter(Boolean).join('+') || STRAIGHT;

/** What a course has to go on from in the way that it is practised now: its schools, and how the last take of that way closed. */
export const lineOf = (course: PracticeConfig): Pick<PracticeConfig, 'schools' | 'last'> => {
  const way = practiceModeId([...methodsOf(course).map(({ id }) => id), course.along && ALONG]);
  if (way === STRAIGHT) return course;
  const kept = course.others[way];
  const schools = Object.fromEntries(
    Object.entries({ ...course.schools, ...kept?.states }).map(([id]): [string, StrategySnapshot] => [
      id,
      { options: course.schools[id]?.options ?? {}, state: kept?.states[id] ?? null },
    ]),
  );
  return { schools, last: kept?.last ?? null };
};

/** The tempo that is aimed for: along with a recording it has a goal of its own. */
export const configuredGoalBpm = ({ goalBpm, along }: PracticeConfig): number => along?.goalBpm ?? goalBpm;

/** What changes the tempo that is aimed for. */
export const goalChange = ({ along }: PracticeConfig, goalBpm: number): PracticeConfigChange =>
  along ? { along: { ...along, goalBpm } } : { goalBpm };

/** When a course was played last, in whatever way; empty where it never was. */
export const lastPlayedAt = (course: PracticeConfig | undefined): string =>
  [course?.last, ...Object.values(course?.others ?? {}).map(({ last }) => last)]
    .map((one) => one?.startedAt ?? '')
    .sort()
    .at(-1) ?? '';

/** A course with a part of it changed by the player. What schools remember is theirs. */
export const changePracticeConfig = (
  course: PracticeConfig,
  { schoolOptions = {}, methodParameters, readiness = {}, ...plain }: PracticeConfigChange,
): PracticeConfig => {
  const schools = Object.entries(schoolOptions).map(([id, options]): [string, StrategySnapshot] => [
    id,
    { options, state: course.schools[id]?.state ?? null },
  ]);
  const looked = Object.entries({ ...course.readiness, ...readiness }).filter(([, answer]) => answer !== 'no');
  return {
    ...course,
    ...plain,
    schools: { ...course.schools, ...Object.fromEntries(schools) },
    methodParameters: { ...course.methodParameters, ...methodParameters },
    readiness: Object.fromEntries(looked) as PracticeConfig['readiness'],
  };
};

/** The name of the way in which a take was played, by its first drill; what was not played to get on is a way of its own. */
export const practiceModeOf = ({ drills, purpose }: Pick<Take, 'drills' | 'purpose'>): string => {
  if (purpose !== 'work') return purpose;
  const [drill] = drills;
  return practiceModeId([drill?.method.id, ...(drill?.also ?? []).map(({ id }) => id), drill?.along && ALONG]);
};

const lastOf = (course: PracticeConfig, way: string): PracticeConfig['last'] =>
  (way === STRAIGHT ? course.last : course.others[way]?.last) ?? null;

/** A course after a take: what its school keeps, and how it closed. An older take than the last known of its way changes nothing. */
export const afterTake = (course: PracticeConfig, take: Take): PracticeConfig => {
  if (!take.closing || take.input === 'file') return course;
  const way = practiceModeOf(take);
  const before = lastOf(course, way);
  if (before && take.startedAt < before.startedAt) return course;
  const { school } = take;
  const last = { takeId: take.id, startedAt: take.startedAt, closing: take.closing };
  if (way !== STRAIGHT) {
    const states = { ...course.others[way]?.states, ...(school ? { [school.id]: school.state } : {}) };
    return { ...course, others: { ...course.others, [way]: { states, last } } };
  }
  return {
    ...course,
    // Once it is counted, the goal is the player's to change.
    goalBpm: before?.takeId === take.id ? course.goalBpm : take.goalBpm,
    schools: school ? { ...course.schools, [school.id]: { options: school.options, state: school.state } } : course.schools,
    last,
  };
};

/** A course once a take was corrected or measured again: how its last take closed. What was decided meanwhile happened, and stands. */
export const afterCorrection = (course: PracticeConfig, take: Take): PracticeConfig => {
  const way = practiceModeOf(take);
  const before = lastOf(course, way);
  if (!take.closing || before?.takeId !== take.id) return course;
  const last = { ...before, closing: take.closing };
  const other = course.others[way];
  return way === STRAIGHT
    ? { ...course, last }
    : { ...course, others: { ...course.others, [way]: { states: {}, ...other, last } } };
};
