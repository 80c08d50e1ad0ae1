import { gridOf } from '../rhythm/grid-of';
import { drillsOf } from '../rhythm/methods/methods';
import { PLAIN_CLICK } from '../rhythm/methods/plain-click';
import { type Course, type CourseChange, courseId, FIRST_VARIANT, type SchoolStanding, WHOLE } from '../schema/course';
import type { Drill } from '../schema/grid';
import type { Passage, Section, Variant } from '../schema/passage';
import { DEFAULT_SETTINGS, type Settings } from '../schema/settings';
import type { Take } from '../schema/take';

/** The course of a passage that was never practised: its own goal, the player's usual school, straight. */
export const newCourse = (passage: Passage, settings: Pick<Settings, 'schoolId' | 'schoolOptions'>): Course => ({
  passageId: passage.id,
  variantId: passage.variants[0]?.id ?? FIRST_VARIANT,
  sectionId: WHOLE,
  goalBpm: passage.goalBpm,
  schoolId: settings.schoolId,
  schools: Object.fromEntries(
    Object.entries(settings.schoolOptions).map(([id, options]) => [id, { options, state: null } as SchoolStanding]),
  ),
  methodId: 'straight',
  methodParameters: {},
  click: PLAIN_CLICK,
  last: null,
});

/** The course of a passage as stored, or a new one. */
export const courseOf = (
  courses: readonly Course[],
  passage: Passage,
  settings: Pick<Settings, 'schoolId' | 'schoolOptions'>,
): Course => {
  const fresh = newCourse(passage, settings);
  const id = courseId(fresh);
  return courses.find((course) => courseId(course) === id) ?? fresh;
};

/** The variant and the section that a course is about; null for unmarked notes, and for the whole. */
export const partsOf = (passage: Passage, course: Course): { variant: Variant | null; section: Section | null } => ({
  variant: passage.variants.find(({ id }) => id === course.variantId) ?? null,
  section: passage.sections.find(({ id }) => id === course.sectionId) ?? null,
});

/** The drill that a course asks for: passage → variant, section → grid → method → drill, under the course's click. */
export const drillOf = (passage: Passage, course: Course): Drill => {
  const { variant, section } = partsOf(passage, course);
  const [drill] = drillsOf(gridOf(passage, variant, section), course.methodId, course.methodParameters[course.methodId]);
  return { ...(drill as Drill), click: course.click };
};

/** The drill of a passage that was never practised: straight, with its first marks. */
export const firstDrill = (passage: Passage): Drill => drillOf(passage, newCourse(passage, DEFAULT_SETTINGS));

/** A course with a part of it changed by the player. What schools remember is theirs. */
export const changeCourse = (course: Course, { schoolOptions = {}, methodParameters, ...plain }: CourseChange): Course => {
  const schools = Object.entries(schoolOptions).map(([id, options]): [string, SchoolStanding] => [
    id,
    { options, state: course.schools[id]?.state ?? null },
  ]);
  return {
    ...course,
    ...plain,
    schools: { ...course.schools, ...Object.fromEntries(schools) },
    methodParameters: { ...course.methodParameters, ...methodParameters },
  };
};

/** A course after a take: what its school keeps, and how it closed. An older take than the last known changes nothing. */
export const afterTake = (course: Course, take: Take): Course => {
  const isNews = !course.last || take.startedAt >= course.last.startedAt;
  if (!take.closing || take.input === 'file' || !isNews) return course;
  const { school } = take;
  return {
    ...course,
    goalBpm: take.goalBpm,
    schools: school ? { ...course.schools, [school.id]: { options: school.options, state: school.state } } : course.schools,
    last: { takeId: take.id, startedAt: take.startedAt, closing: take.closing },
  };
};
