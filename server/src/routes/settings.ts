import { DEFAULT_SETTINGS, SettingsSchema } from '@isochron/core';
import { Router } from 'express';
import type { Store } from '../database/open';

const KEY = 'player';

/** `/api/settings`: one document; settings that an older version stored are completed with the defaults. */
export const settingsRoutes = ({ models }: Store): Router => {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    const stored = (await models.settings.findByPk(KEY))?.get('document');
    const parsed = SettingsSchema.safeParse({ ...DEFAULT_SETTINGS, ...(stored ?? {}) });
    response.json(parsed.success ? parsed.data : DEFAULT_SETTINGS);
  });
  routes.put('/', async (request, response) => {
    const settings = SettingsSchema.parse(request.body);
    await models.settings.upsert({ key: KEY, document: settings });
    response.json(settings);
  });
  return routes;
};
