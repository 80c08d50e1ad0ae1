import { PracticeQuerySchema } from '@isochron/core';
import { Router } from 'express';
import type { Store } from '../database/open';
import { practiceDays } from '../practice';

/** `/api/practice`: what was practised, day by day. */
export const practiceRoutes = (store: Store): Router => {
  const routes = Router();
  routes.get('/', async (request, response) => {
    response.json(await practiceDays(store, PracticeQuerySchema.parse(request.query)));
  });
  return routes;
};
