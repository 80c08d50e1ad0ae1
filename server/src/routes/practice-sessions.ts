import { PracticeSessionSchema } from '@isochron/core';
import { Router } from 'express';
import type { Store } from '../database/open';
import { isIntact } from '../database/seal';
import { putPracticeSession } from '../practice-sessions';
import { RequestError } from '../request-error';

/** `/api/sittings`: what was practised in one go; stored before its first take, and again as it goes on. */
export const practiceSessionRoutes = (store: Store): Router => {
  const { models, unreadable } = store;
  const routes = Router();
  routes.get('/:id', async (request, response) => {
    const row = await models.sittings.findByPk(request.params.id);
    if (!row) throw new RequestError(404, 'There is no such sitting.');
    const sitting = unreadable.read('sitting', request.params.id, PracticeSessionSchema, isIntact(row) && row.get('document'));
    if (!sitting) throw new RequestError(422, 'This sitting cannot be read. What is stored of it is left as it is.');
    response.json(sitting);
  });
  routes.put('/:id', async (request, response) => {
    const sitting = PracticeSessionSchema.parse(request.body);
    if (sitting.id !== request.params.id) throw new RequestError(400, 'The sitting and its address do not agree.');
    await putPracticeSession(store, sitting);
    response.json(sitting);
  });
  return routes;
};
