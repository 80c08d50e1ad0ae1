import {
  type afterTake,
  changePracticeConfig,
  newPracticeConfig,
  PassageSchema,
  type PracticeConfig,
  type PracticeConfigChange,
  type PracticeConfigKey,
  PracticeConfigSchema,
  practiceConfigId,
  practiceConfigKey,
  type Take,
} from '@isochron/core';
import type { Transaction } from 'sequelize';
import type { Store } from './database/open';
import { isIntact } from './database/seal';
import { RequestError } from './request-error';
import { getPlayerSettings } from './settings';

/** Every course: goal, school, method and click by passage, variant and section. */
export const listPracticeConfigs = async ({ models, unreadable }: Store): Promise<PracticeConfig[]> =>
  (await models.courses.findAll({ order: [['id', 'ASC']] })).flatMap((row) => {
    const { id, document } = row.get({ plain: true });
    return unreadable.read('course', id, PracticeConfigSchema, isIntact(row) && document) ?? [];
  });

/**
 * A course as stored, or a new one of its passage (with `begun` in it); null where the passage is not there either. Throws a
 * RequestError (422) where one is stored that cannot be read: nothing may be put in its place.
 */
const configNow = async (
  store: Store,
  key: PracticeConfigKey,
  transaction: Transaction,
  begun: Partial<PracticeConfig> = {},
): Promise<PracticeConfig | null> => {
  const id = practiceConfigId(key);
  const row = await store.models.courses.findByPk(id, { transaction });
  if (row) {
    const course = store.unreadable.read('course', id, PracticeConfigSchema, isIntact(row) && row.get('document'));
    if (!course)
      throw new RequestError(422, 'How this passage is practised cannot be read. What is stored of it is left as it is.');
    return course;
  }
  const passage = (await store.models.passages.findByPk(key.passageId, { transaction }))?.get('document');
  const { data } = PassageSchema.safeParse(passage);
  return data
    ? { ...newPracticeConfig(data, await getPlayerSettings(store, transaction)), ...practiceConfigKey(key), ...begun }
    : null;
};

/**
 * Changes a part of a course, whatever else of it was changed meanwhile; where there is none it begins as a new one of its passage.
 * Gives back what is stored. Throws a RequestError where there is no such passage.
 */
export const changeStoredConfig = (
  store: Store,
  key: PracticeConfigKey,
  change: PracticeConfigChange,
): Promise<PracticeConfig> =>
  store.write(async (transaction) => {
    const before = await configNow(store, key, transaction);
    if (!before) throw new RequestError(404, 'There is no such passage.');
    const course = changePracticeConfig(before, change);
    await writeConfig(store, course, transaction);
    return course;
  });

const writeConfig = async ({ models }: Store, course: PracticeConfig, transaction: Transaction): Promise<void> => {
  await models.courses.upsert({ id: practiceConfigId(course), passageId: course.passageId, document: course }, { transaction });
};

/**
 * Notes in a take's course what the take leaves: its closing, and what its school remembers where it was played, not corrected. A
 * course that cannot be read is left alone.
 */
export const noteTake = async (store: Store, take: Take, transaction: Transaction, after: typeof afterTake): Promise<void> => {
  const begun = take.school ? { schoolId: take.school.id } : {};
  const before = await configNow(store, take, transaction, begun).catch((error: unknown) => {
    if (error instanceof RequestError) return null;
    throw error;
  });
  if (!before) return;
  const course = after(before, take);
  if (course !== before) await writeConfig(store, course, transaction);
};
