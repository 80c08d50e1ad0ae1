import { localDay, now } from '@isochron/core/schema';
import { Router } from 'express';
import { createBackupDesk } from '../backup/backup-desk';
import { exportAll } from '../backup/export-all';
import type { Store } from '../database/open';
import type { IntegrityDesk } from '../integrity/integrity-desk';
import { RequestError } from '../request-error';

const today = () => localDay(now());

/** `/api/backup`: everything as one file, and back; everything as JSON and CSV; how far it has come. */
export const backupRoutes = (store: Store, integrity: IntegrityDesk): Router => {
  const desk = createBackupDesk(store, integrity.lookAtStart);
  const routes = Router();
  routes.get('/', (_request, response) => {
    response.json(desk.state());
  });
  routes.get('/file', async (_request, response) => {
    if (desk.state().doing !== 'nothing') throw new RequestError(409, 'A backup or a restore is under way already.');
    response.attachment(`isochron-${today()}.zip`);
    await desk.backUp(response);
  });
  routes.get('/export', async (_request, response) => {
    response.attachment(`isochron-${today()}-figures.zip`);
    await exportAll(store, response);
  });
  routes.put('/', async (request, response) => {
    if (request.is('json')) throw new RequestError(415, 'A backup is sent as a ZIP file (application/zip).');
    response.json(await desk.restore(request, Number(request.get('Content-Length') ?? 0)));
  });
  return routes;
};
