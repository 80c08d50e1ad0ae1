import {
  type afterCorrection,
  afterTake,
  type Course,
  type CourseChange,
  type CourseKey,
  CourseSchema,
  changeCourse,
  courseId,
  keyOf,
  newCourse,
  PassageSchema,
  type Take,
} from '@isochron/core';
import type { Transaction } from 'sequelize';
import type { Store } from './database/open';
import { isIntact } from './database/seal';
import { Refusal } from './refusal';
import { getPlayerSettings } from './settings';

/** Every course: goal, school, method and click by passage, variant and section. */
export const listCourses = async ({ models, unreadable }: Store): Promise<Course[]> =>
  (await models.courses.findAll({ order: [['id', 'ASC']] })).flatMap((row) => {
    const { id, document } = row.get({ plain: true });
    return unreadable.read('course', id, CourseSchema, isIntact(row) && document) ?? [];
  });

/**
 * A course as stored, or a new one of its passage (with `begun` in it); null where the passage is not there either. Throws a
 * Refusal (422) where one is stored that cannot be read: nothing may be put in its place.
 */
const courseNow = async (
  store: Store,
  key: CourseKey,
  transaction: Transaction,
  begun: Partial<Course> = {},
): Promise<Course | null> => {
  const id = courseId(key);
  const row = await store.models.courses.findByPk(id, { transaction });
  if (row) {
    const course = store.unreadable.read('course', id, CourseSchema, isIntact(row) && row.get('document'));
    if (!course) throw new Refusal(422, 'How this passage is practised cannot be read. What is stored of it is left as it is.');
    return course;
  }
  const passage = (await store.models.passages.findByPk(key.passageId, { transaction }))?.get('document');
  const { data } = PassageSchema.safeParse(passage);
  return data ? { ...newCourse(data, await getPlayerSettings(store, transaction)), ...keyOf(key), ...begun } : null;
};

/**
 * Changes a part of a course, whatever else of it was changed meanwhile; where there is none it begins as a new one of its passage.
 * Gives back what is stored. Throws a Refusal where there is no such passage.
 */
export const changeStoredCourse = (store: Store, key: CourseKey, change: CourseChange): Promise<Course> =>
  store.write(async (transaction) => {
    const before = await courseNow(store, key, transaction);
    if (!before) throw new Refusal(404, 'There is no such passage.');
    const course = changeCourse(before, change);
    await writeCourse(store, course, transaction);
    return course;
  });

const writeCourse = async ({ models }: Store, course: Course, transaction: Transaction): Promise<void> => {
  await models.courses.upsert({ id: courseId(course), passageId: course.passageId, document: course }, { transaction });
};

/**
 * Notes in a take's course what the take leaves: its closing, and what its school remembers where it was played, not corrected. A
 * course that cannot be read is left alone.
 */
export const noteTake = async (
  store: Store,
  take: Take,
  transaction: Transaction,
  after: typeof afterTake | typeof afterCorrection = afterTake,
): Promise<void> => {
  const begun = take.school ? { schoolId: take.school.id } : {};
  const before = await courseNow(store, take, transaction, begun).catch((error: unknown) => {
    if (error instanceof Refusal) return null;
    throw error;
  });
  if (!before) return;
  const course = after(before, take);
  if (course !== before) await writeCourse(store, course, transaction);
};
