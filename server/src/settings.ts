import { readSettings, type Settings } from '@isochron/core';
import type { Transaction } from 'sequelize';
import type { Store } from './database/open';

const KEY = 'player';

/** The player's settings; what is missing or cannot be read takes its default, field by field. */
export const getPlayerSettings = async ({ models }: Store, transaction?: Transaction): Promise<Settings> =>
  readSettings((await models.settings.findByPk(KEY, { transaction }))?.get('document'));

export const putPlayerSettings = ({ models, write }: Store, settings: Settings): Promise<void> =>
  write(async (transaction) => {
    await models.settings.upsert({ key: KEY, document: settings }, { transaction });
  });
