import { SolutionSchema } from '@isochron/core/schema';
import { Router } from 'express';
import type { Store } from '../database/open';
import { RequestError } from '../request-error';
import { listSolutions, putSolution } from '../solutions';

/** `/api/notebook`: what solved problems, by bars of passages. */
export const notebookRoutes = (store: Store): Router => {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await listSolutions(store));
  });
  routes.put('/:id', async (request, response) => {
    const solution = SolutionSchema.parse(request.body);
    if (solution.id !== request.params.id) throw new RequestError(400, 'The entry and its address do not agree.');
    response.json(await putSolution(store, solution));
  });
  return routes;
};
