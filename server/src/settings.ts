import { DEFAULT_SETTINGS, languageDefaults, readSettings, type Settings } from '@isochron/core/schema';
import type { Transaction } from 'sequelize';
import type { Store } from './database/open';

const KEY = 'player';

const storedSettings = async ({ models }: Store, transaction?: Transaction): Promise<unknown> =>
  (await models.settings.findByPk(KEY, { transaction }))?.get('document');

const readFor = (stored: unknown, language: string): Settings =>
  readSettings(stored, { ...DEFAULT_SETTINGS, ...languageDefaults(language) });

/**
 * The player's settings; what is missing or cannot be read takes its default, field by field: note names and dates by the language of
 * the browser, until the player has chosen.
 */
export const getPlayerSettings = async (store: Store, transaction?: Transaction, language = ''): Promise<Settings> =>
  readFor(await storedSettings(store, transaction), language);

/** Changes some of the settings, whatever else of them was changed meanwhile. Gives back all of them. */
export const changePlayerSettings = (store: Store, change: Partial<Settings>, language = ''): Promise<Settings> =>
  store.write(async (transaction) => {
    const stored = await storedSettings(store, transaction);
    // Only what was chosen is stored, so that a default stays one.
    const document = { ...(typeof stored === 'object' ? stored : {}), ...change };
    await store.models.settings.upsert({ key: KEY, document }, { transaction });
    return readFor(document, language);
  });
