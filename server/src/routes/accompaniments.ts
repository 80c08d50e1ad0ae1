import { summaryOfAccompaniment } from '@isochron/core/material';
import { AccompanimentSchema, IdSchema, now } from '@isochron/core/schema';
import { Router } from 'express';
import { z } from 'zod';
import {
  addAccompaniment,
  getAccompaniment,
  listAccompaniments,
  putAccompaniment,
  removeAccompaniment,
  soundOf,
} from '../accompaniments';
import type { Store } from '../database/open';
import { checkSound } from '../recordings';
import { RequestError } from '../request-error';

/** What a new recording's address says of it. */
const NewSchema = AccompanimentSchema.pick({ title: true }).extend({
  lengthS: z.coerce.number().pipe(AccompanimentSchema.shape.lengthS),
});

/** `/api/accompaniments`: recordings to play along with, and the sound of each. */
export const accompanimentRoutes = (store: Store): Router => {
  const routes = Router();
  routes.param('id', (_request, _response, next, id) => {
    IdSchema.parse(id);
    next();
  });
  routes.get('/', async (_request, response) => {
    response.json((await listAccompaniments(store)).map(summaryOfAccompaniment));
  });
  routes.get('/:id', async (request, response) => {
    response.json(await getAccompaniment(store, request.params.id));
  });
  routes.post('/:id', async (request, response) => {
    if (request.is('json')) throw new RequestError(415, 'A recording is sent as it is, not as JSON.');
    const announced = request.get('Content-Length');
    const fresh = {
      ...NewSchema.parse(request.query),
      id: request.params.id,
      revision: 0,
      addedAt: now().toISOString(),
      beats: null,
    };
    response.json(await addAccompaniment(store, fresh, request, announced === undefined ? null : Number(announced)));
  });
  routes.put('/:id', async (request, response) => {
    const accompaniment = AccompanimentSchema.parse(request.body);
    if (accompaniment.id !== request.params.id) throw new RequestError(400, 'The recording and its address do not agree.');
    response.json(await putAccompaniment(store, accompaniment));
  });
  routes.get('/:id/sound', async (request, response) => {
    const { path, state } = await soundOf(store, request.params.id);
    checkSound(state);
    response.type('application/octet-stream').sendFile(path, { dotfiles: 'allow' });
  });
  routes.delete('/:id', async (request, response) => {
    await removeAccompaniment(store, request.params.id);
    response.status(204).end();
  });
  return routes;
};
