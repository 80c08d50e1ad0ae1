import { Router } from 'express';
import type { IntegrityDesk } from '../integrity/integrity-desk';

/** `/api/integrity`: whether what is stored is as it was stored; begin a check, stop it, tidy up. */
export const integrityRoutes = (desk: IntegrityDesk): Router => {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await desk.state());
  });
  routes.post('/', async (_request, response) => {
    desk.start();
    response.status(202).json(await desk.state());
  });
  routes.delete('/', async (_request, response) => {
    await desk.cancel();
    response.json(await desk.state());
  });
  routes.post('/tidy', async (_request, response) => {
    response.json(await desk.tidy());
  });
  return routes;
};
