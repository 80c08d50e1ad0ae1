import { SessionSchema } from '@isochron/core';
import { Router } from 'express';
import type { Store } from '../database/open';
import { Refusal } from '../refusal';

/** `/api/sessions`: a session is one sitting, made before its first take. */
export const sessionRoutes = ({ models }: Store): Router => {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    const rows = await models.sessions.findAll({ order: [['startedAt', 'DESC']] });
    response.json(rows.map((row) => SessionSchema.parse(row.get({ plain: true }))));
  });
  routes.put('/:id', async (request, response) => {
    const session = SessionSchema.parse(request.body);
    if (session.id !== request.params.id) throw new Refusal(400, 'The session and its address do not agree.');
    await models.sessions.upsert(session);
    response.json(session);
  });
  return routes;
};
