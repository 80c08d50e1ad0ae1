import { NameIdSchema, PassageSchema } from '@isochron/core';
import { Router } from 'express';
import type { Store } from '../database/open';
import { getPassage, listPassages, putPassage } from '../passages';
import { Refusal } from '../refusal';
import { tempoHistory } from '../takes';

/** `/api/passages`: list, read, store, and the tempo history of each. */
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
  routes.get('/:id/history', async (request, response) => {
    response.json(await tempoHistory(store, NameIdSchema.parse(request.params.id)));
  });
  routes.put('/:id', async (request, response) => {
    const passage = PassageSchema.parse(request.body);
    if (passage.id !== request.params.id) throw new Refusal(400, 'The passage and its address do not agree.');
    response.json(await putPassage(store, passage));
  });
  return routes;
};
