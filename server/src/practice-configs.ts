import { type afterTake, changePracticeConfig, newPracticeConfig } from '@isochron/core/planning';
import {
  PassageSchema,
  type PracticeConfig,
  type PracticeConfigChange,
  type PracticeConfigKey,
  PracticeConfigSchema,
  practiceConfigId,
  practiceConfigKey,
  type Take,
} from '@isochron/core/schema';
import type { Transaction } from 'sequelize';
import type { Store } from './database/open';
import { isIntact } from './database/seal';
import { RequestError } from './request-error';
import { getPlayerSettings } from './settings';

/** Every configuration: goal, strategy, method and click by passage, variant and section. */
export const listPracticeConfigs = async ({ models, unreadable }: Store): Promise<PracticeConfig[]> =>
  (await models.practiceConfigs.findAll({ order: [['id', 'ASC']] })).flatMap((row) => {
    const { id, document } = row.get({ plain: true });
    return unreadable.read('config', id, PracticeConfigSchema, isIntact(row) && document) ?? [];
  });

/**
 * A configuration as stored, or a new one of its passage (with `begun` in it); null where the passage is not there either. Throws a
 * RequestError (422) where one is stored that cannot be read: nothing may be put in its place.
 */
const configNow = async (
  store: Store,
  key: PracticeConfigKey,
  transaction: Transaction,
  begun: Partial<PracticeConfig> = {},
): Promise<PracticeConfig | null> => {
  const id = practiceConfigId(key);
  const row = await store.models.practiceConfigs.findByPk(id, { transaction });
  if (row) {
    const config = store.unreadable.read('config', id, PracticeConfigSchema, isIntact(row) && row.get('document'));
    if (!config)
      throw new RequestError(422, 'How this passage is practised cannot be read. What is stored of it is left as it is.');
    return config;
  }
  const passage = (await store.models.passages.findByPk(key.passageId, { transaction }))?.get('document');
  const { data } = PassageSchema.safeParse(passage);
  return data
    ? { ...newPracticeConfig(data, await getPlayerSettings(store, transaction)), ...practiceConfigKey(key), ...begun }
    : null;
};

/**
 * Changes a part of a configuration, whatever else of it was changed meanwhile; where there is none it begins as a new one of its passage.
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
    const config = changePracticeConfig(before, change);
    await writeConfig(store, config, transaction);
    return config;
  });

const writeConfig = async ({ models }: Store, config: PracticeConfig, transaction: Transaction): Promise<void> => {
  await models.practiceConfigs.upsert(
    { id: practiceConfigId(config), passageId: config.passageId, document: config },
    { transaction },
  );
};

/**
 * Notes in a take's configuration what the take leaves: its summary, and what its strategy remembers where it was played, not corrected. A
 * configuration that cannot be read is left alone.
 */
export const noteTake = async (store: Store, take: Take, transaction: Transaction, after: typeof afterTake): Promise<void> => {
  const begun = take.strategy ? { strategyId: take.strategy.id } : {};
  const before = await configNow(store, take, transaction, begun).catch((error: unknown) => {
    if (error instanceof RequestError) return null;
    throw error;
  });
  if (!before) return;
  const config = after(before, take);
  if (config !== before) await writeConfig(store, config, transaction);
};
