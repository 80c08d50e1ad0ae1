import { CourseChangeSchema, CourseKeySchema, courseId } from '@isochron/core';
import { Router } from 'express';
import { changeStoredCourse, listCourses } from '../courses';
import type { Store } from '../database/open';
import { Refusal } from '../refusal';

/** `/api/courses`: how each passage is practised. */
export const courseRoutes = (store: Store): Router => {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await listCourses(store));
  });
  routes.patch('/:id', async (request, response) => {
    const [passageId, variantId, sectionId] = request.params.id.split('.');
    const key = CourseKeySchema.parse({ passageId, variantId, sectionId });
    if (courseId(key) !== request.params.id) throw new Refusal(404, 'There is no such course.');
    response.json(await changeStoredCourse(store, key, CourseChangeSchema.parse(request.body)));
  });
  return routes;
};
