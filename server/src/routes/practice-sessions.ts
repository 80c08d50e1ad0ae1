import { PracticeSessionSchema, withPresentNames } from '@isochron/core/schema';
import { Router } from 'express';
import type { Store } from '../database/open';
import { isIntact } from '../database/seal';
import { putPracticeSession } from '../practice-sessions';
import { RequestError } from '../request-error';

/** `/api/sessions`: what was practised in one go; stored before its first take, and again as it goes on. */
export const practiceSessionRoutes = (store: Store): Router => {
  const { models, unreadable } = store;
  const routes = Router();
  routes.get('/:id', async (request, response) => {
    const row = await models.sessions.findByPk(request.params.id);
    if (!row) throw new RequestError(404, 'There is no such session.');
    const session = unreadable.read('session', request.params.id, PracticeSessionSchema, isIntact(row) && row.get('document'));
    if (!session) throw new RequestError(422, 'This session cannot be read. What is stored of it is left as it is.');
    response.json(session);
  });
  routes.put('/:id', async (request, response) => {
    const session = PracticeSessionSchema.parse(withPresentNames(request.body));
    if (session.id !== request.params.id) throw new RequestError(400, 'The session and its address do not agree.');
    await putPracticeSession(store, session);
    response.json(session);
  });
  return routes;
};
