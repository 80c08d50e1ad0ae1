import { LibraryChangeSchema, NameIdSchema, PassageSchema, ProgressQuerySchema, TempoLogSchema } from '@isochron/core/schema';
import { Router } from 'express';
import { z } from 'zod';
import type { Store } from '../database/open';
import { storeLog } from '../log';
import { getPassage, listLibrary, putPassage, shelve } from '../passages';
import { passageProgress } from '../progress';
import { RequestError } from '../request-error';
import { passageRepetitions, tempoHistory } from '../take-lists';
import { zoneOf } from '../zone';

/** `/api/passages`: the library, read, store, and the tempo history of each. */
export const passageRoutes = (store: Store): Router => {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await listLibrary(store));
  });
  routes.get('/:id', async (request, response) => {
    const passage = await getPassage(store, request.params.id);
    if (!passage) throw new RequestError(404, 'There is no such passage.');
    response.json(passage);
  });
  routes.get('/:id/history', async (request, response) => {
    response.json(await tempoHistory(store, NameIdSchema.parse(request.params.id), zoneOf(request)));
  });
  routes.get('/:id/repetitions', async (request, response) => {
    response.json(await passageRepetitions(store, NameIdSchema.parse(request.params.id)));
  });
  routes.get('/:id/progress', async (request, response) => {
    const query = ProgressQuerySchema.parse(request.query);
    response.json(await passageProgress(store, NameIdSchema.parse(request.params.id), query, zoneOf(request)));
  });
  routes.post('/:id/log', async (request, response) => {
    const passage = await getPassage(store, request.params.id);
    if (!passage) throw new RequestError(404, 'There is no such passage.');
    response.json({ added: await storeLog(store, passage, TempoLogSchema.parse(request.body), zoneOf(request)) });
  });
  routes.put('/:id', async (request, response) => {
    const passage = PassageSchema.parse(request.body);
    if (passage.id !== request.params.id) throw new RequestError(400, 'The passage and its address do not agree.');
    const from = request.query.from === undefined ? null : z.coerce.number().int().min(0).parse(request.query.from);
    response.json(await putPassage(store, passage, from));
  });
  routes.patch('/:id/library', async (request, response) => {
    response.json(await shelve(store, NameIdSchema.parse(request.params.id), LibraryChangeSchema.parse(request.body)));
  });
  return routes;
};
