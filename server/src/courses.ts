import {
  afterTake,
  type Course,
  CourseSchema,
  courseId,
  newCourse,
  type Passage,
  PassageSchema,
  type Take,
} from '@isochron/core';
import type { Transaction } from 'sequelize';
import type { Store } from './database/open';
import { getPlayerSettings } from './settings';

/** Every course: goal, school, method and click by passage, variant and section. */
export const listCourses = async ({ models }: Store): Promise<Course[]> =>
  (await models.courses.findAll({ order: [['id', 'ASC']] })).flatMap((row) => {
    const read = CourseSchema.safeParse(row.get('document'));
    return read.success ? [read.data] : [];
  });

/** Stores a course in place of what was stored under its id. */
export const putCourse = (store: Store, course: Course): Promise<void> =>
  store.write((transaction) => writeCourse(store, course, transaction));

const writeCourse = async ({ models }: Store, course: Course, transaction: Transaction): Promise<void> => {
  await models.courses.upsert({ id: courseId(course), passageId: course.passageId, document: course }, { transaction });
};

/** Notes in a take's course what the take leaves: its closing, and what its school remembers. */
export const noteTake = async (store: Store, take: Take, transaction: Transaction): Promise<void> => {
  const stored = await store.models.courses.findByPk(courseId(take), { transaction });
  const read = CourseSchema.safeParse(stored?.get('document'));
  const passage = await store.models.passages.findByPk(take.passageId, { transaction });
  if (!read.success && !passage) return;
  const { passageId, variantId, sectionId, school } = take;
  const fresh = async (): Promise<Course> => ({
    ...newCourse(PassageSchema.parse(passage?.get('document')) as Passage, await getPlayerSettings(store, transaction)),
    passageId,
    variantId,
    sectionId,
    ...(school ? { schoolId: school.id } : {}),
  });
  const before = read.success ? read.data : await fresh();
  const after = afterTake(before, take);
  if (after !== before) await writeCourse(store, after, transaction);
};
