import { readSettings, type Settings } from '@isochron/core';
import type { Transaction } from 'sequelize';
import type { Store } from './database/open';

const KEY = 'player';

/** The player's settings; what is missing or cannot be read takes its default, field by field. */
export const getPlayerSettings = async ({ models }: Store, transaction?: Transaction): Promise<Settings> =>
  readSettings((await models.settings.findByPk(KEY, { transaction }))?.get('document'));

/** Changes some of the settings, whatever else of them was changed meanwhile. Gives back all as they are stored. */
export const changePlayerSettings = (store: Store, change: Partial<Settings>): Promise<Settings> =>
  store.write(async (transaction) => {
    const document = { ...(await getPlayerSettings(store, transaction)), ...change };
    await store.models.settings.upsert({ key: KEY, document }, { transaction });
    return document;
  });
