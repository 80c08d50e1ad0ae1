import { PassageSchema } from '@isochron/core';
import { Router } from 'express';
import type { Store } from '../database/open';
import { getPassage, listPassages, putPassage } from '../passages';
import { Refusal } from '../refusal';

/** `/api/passages`: list, read, store. */
export const passageRoutes = (store: Store): Router => {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await listPassages(store));
  });
  routes.get('/:id', async (request, response) => {
    const passage = await getPassage(store, request.params.id);
    if (!passage) throw new Refusal(404, 'There is no such passage.');
    response.json(passage);
  });
  routes.put('/:id', async (request, response) => {
    const passage = PassageSchema.parse(request.body);
    if (passage.id !== request.params.id) throw new Refusal(400, 'The passage and its address do not agree.');
    response.json(await putPassage(store, passage));
  });
  return routes;
};
