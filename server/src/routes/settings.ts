import { SettingsSchema } from '@isochron/core';
import { Router } from 'express';
import type { Store } from '../database/open';
import { getPlayerSettings, putPlayerSettings } from '../settings';

/** `/api/settings`: one document. */
export const settingsRoutes = (store: Store): Router => {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await getPlayerSettings(store));
  });
  routes.put('/', async (request, response) => {
    const settings = SettingsSchema.parse(request.body);
    await putPlayerSettings(store, settings);
    response.json(settings);
  });
  return routes;
};
