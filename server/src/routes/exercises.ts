import { ExerciseSchema } from '@isochron/core';
import { Router } from 'express';
import type { Store } from '../database/open';
import { Refusal } from '../refusal';

/** `/api/exercises`: list, read, store. */
export const exerciseRoutes = ({ models }: Store): Router => {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    const rows = await models.exercises.findAll({ order: [['title', 'ASC']] });
    response.json(rows.map((row) => ExerciseSchema.parse(row.get('document'))));
  });
  routes.get('/:id', async (request, response) => {
    const row = await models.exercises.findByPk(request.params.id);
    if (!row) throw new Refusal(404, 'There is no such exercise.');
    response.json(ExerciseSchema.parse(row.get('document')));
  });
  routes.put('/:id', async (request, response) => {
    const exercise = ExerciseSchema.parse(request.body);
    if (exercise.id !== request.params.id) throw new Refusal(400, 'The exercise and its address do not agree.');
    await models.exercises.upsert({ id: exercise.id, title: exercise.title, document: exercise });
    response.json(exercise);
  });
  return routes;
};
