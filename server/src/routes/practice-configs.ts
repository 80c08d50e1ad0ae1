import { PracticeConfigChangeSchema, PracticeConfigKeySchema, practiceConfigId } from '@isochron/core/schema';
import { Router } from 'express';
import type { Store } from '../database/open';
import { changeStoredConfig, listPracticeConfigs } from '../practice-configs';
import { RequestError } from '../request-error';

/** `/api/practice-configs`: how each passage is practised. */
export const practiceConfigRoutes = (store: Store): Router => {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await listPracticeConfigs(store));
  });
  routes.patch('/:id', async (request, response) => {
    const [passageId, variantId, sectionId] = request.params.id.split('.');
    const key = PracticeConfigKeySchema.parse({ passageId, variantId, sectionId });
    if (practiceConfigId(key) !== request.params.id) throw new RequestError(404, 'There is no such practice configuration.');
    response.json(await changeStoredConfig(store, key, PracticeConfigChangeSchema.parse(request.body)));
  });
  return routes;
};
