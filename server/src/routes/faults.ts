import { MAX_FAULT_LENGTH } from '@isochron/core/schema';
import { Router } from 'express';
import type { Logger } from 'pino';
import { z } from 'zod';

const FaultSchema = z.object({ details: z.string().min(1).max(MAX_FAULT_LENGTH) });
/** A page that fails over and over must not fill the log. */
const MAX_LOGGED = 200;

/** `/api/faults`: what went wrong in the program while it ran in a browser goes to the server's log. */
export const faultRoutes = (log: Logger): Router => {
  const routes = Router();
  let logged = 0;
  routes.post('/', (request, response) => {
    const { details } = FaultSchema.parse(request.body);
    if (logged < MAX_LOGGED) log.error({ details }, 'a fault in the browser');
    logged += 1;
    response.json({});
  });
  return routes;
};
