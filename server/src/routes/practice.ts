import { PracticeConfigKeySchema, PracticeQuerySchema } from '@isochron/core/schema';
import { Router } from 'express';
import type { Store } from '../database/open';
import { practiceDays, practiceTotals } from '../practice';
import { zoneOf } from '../zone';

/** `/api/practice`: what was practised, day by day, and all of it together. */
export const practiceRoutes = (store: Store): Router => {
  const routes = Router();
  routes.get('/', async (request, response) => {
    response.json(await practiceDays(store, PracticeQuerySchema.parse(request.query), zoneOf(request)));
  });
  routes.get('/totals', async (request, response) => {
    response.json(await practiceTotals(store, PracticeConfigKeySchema.parse(request.query)));
  });
  return routes;
};
