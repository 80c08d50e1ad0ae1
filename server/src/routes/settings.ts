import { SettingsSchema } from '@isochron/core';
import { Router } from 'express';
import type { Store } from '../database/open';
import { changePlayerSettings, getPlayerSettings } from '../settings';

/** `/api/settings`: one document. */
export const settingsRoutes = (store: Store): Router => {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await getPlayerSettings(store));
  });
  routes.patch('/', async (request, response) => {
    response.json(await changePlayerSettings(store, SettingsSchema.partial().parse(request.body)));
  });
  return routes;
};
