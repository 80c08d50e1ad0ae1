import { SittingSchema } from '@isochron/core';
import { Router } from 'express';
import type { Store } from '../database/open';
import { Refusal } from '../refusal';

/** `/api/sittings`: what was practised in one go; stored before its first take, and again as it goes on. */
export const sittingRoutes = ({ models, write, unreadable }: Store): Router => {
  const routes = Router();
  routes.get('/:id', async (request, response) => {
    const row = await models.sittings.findByPk(request.params.id);
    if (!row) throw new Refusal(404, 'There is no such sitting.');
    const sitting = unreadable.read('sitting', request.params.id, SittingSchema, row.get('document'));
    if (!sitting) throw new Refusal(422, 'This sitting cannot be read. What is stored of it is left as it is.');
    response.json(sitting);
  });
  routes.put('/:id', async (request, response) => {
    const sitting = SittingSchema.parse(request.body);
    if (sitting.id !== request.params.id) throw new Refusal(400, 'The sitting and its address do not agree.');
    const { id, startedAt } = sitting;
    await write((transaction) => models.sittings.upsert({ id, startedAt, document: sitting }, { transaction }));
    response.json(sitting);
  });
  return routes;
};
