import { IdSchema } from '@isochron/core/schema';
import { Router } from 'express';
import { z } from 'zod';
import type { Reanalyser } from '../reanalysis/reanalysis';

const StartSchema = z.object({ takeId: IdSchema.optional() });

/** `/api/reanalysis`: how it gets on, begin, and stop. */
export const reanalysisRoutes = (reanalyser: Reanalyser): Router => {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await reanalyser.state());
  });
  routes.post('/', async (request, response) => {
    await reanalyser.start(StartSchema.parse(request.body ?? {}).takeId);
    response.status(202).json(await reanalyser.state());
  });
  routes.delete('/', async (_request, response) => {
    await reanalyser.cancel();
    response.json(await reanalyser.state());
  });
  return routes;
};
