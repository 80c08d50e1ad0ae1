import { SettingsChangeSchema } from '@isochron/core/schema';
import { type Request, Router } from 'express';
import type { Store } from '../database/open';
import { changePlayerSettings, getPlayerSettings } from '../settings';

/** The language that the browser asks for first; empty where it asks for none. */
const languageOf = (request: Request): string => {
  const [first = ''] = request.acceptsLanguages();
  return first === '*' ? '' : first;
};

/** `/api/settings`: one document. */
export const settingsRoutes = (store: Store): Router => {
  const routes = Router();
  routes.get('/', async (request, response) => {
    response.json(await getPlayerSettings(store, undefined, languageOf(request)));
  });
  routes.patch('/', async (request, response) => {
    response.json(await changePlayerSettings(store, SettingsChangeSchema.parse(request.body), languageOf(request)));
  });
  return routes;
};
