import { IdSchema, RepetitionSchema, TakeSchema } from '@isochron/core';
import { Router } from 'express';
import type { Store } from '../database/open';
import { getRecording, putRecording } from '../recordings';
import { Refusal } from '../refusal';
import { earlierAnalyses, getTake, listTakes, putRepetition, putTake } from '../takes';

/** `/api/takes`: list, read, store, remove, and the recording of each. */
export const takeRoutes = (store: Store): Router => {
  const routes = Router();
  routes.param('id', (_request, _response, next, id) => {
    IdSchema.parse(id);
    next();
  });
  routes.get('/', async (request, response) => {
    const { passageId } = request.query;
    response.json(await listTakes(store, typeof passageId === 'string' ? passageId : undefined));
  });
  routes.get('/:id', async (request, response) => {
    const take = await getTake(store, request.params.id);
    if (!take) throw new Refusal(404, 'There is no such take.');
    response.json(take);
  });
  routes.put('/:id', async (request, response) => {
    const take = TakeSchema.parse(request.body);
    if (take.id !== request.params.id) throw new Refusal(400, 'The take and its address do not agree.');
    await putTake(store, take);
    response.json(await getTake(store, take.id));
  });
  routes.put('/:id/repetitions/:index', async (request, response) => {
    const repetition = RepetitionSchema.parse(request.body);
    if (String(repetition.index) !== request.params.index)
      throw new Refusal(400, 'The repetition and its address do not agree.');
    await putRepetition(store, request.params.id, repetition);
    response.json(repetition);
  });
  routes.get('/:id/earlier', async (request, response) => {
    response.json(await earlierAnalyses(store, request.params.id));
  });
  routes.put('/:id/recording', async (request, response) => {
    if (!(await store.models.takes.findByPk(request.params.id))) throw new Refusal(404, 'Store the take before its recording.');
    const announced = Number(request.headers['content-length'] ?? Number.NaN);
    await putRecording(store, request.params.id, request, Number.isInteger(announced) ? announced : null);
    response.status(204).end();
  });
  routes.get('/:id/recording', async (request, response) => {
    const recording = await getRecording(store, request.params.id);
    if (!recording) throw new Refusal(404, 'This take has no recording.');
    response.type('audio/wav').sendFile(recording.path, { dotfiles: 'allow' });
  });
  return routes;
};
