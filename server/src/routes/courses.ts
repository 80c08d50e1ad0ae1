import { CourseSchema, courseId } from '@isochron/core';
import { Router } from 'express';
import { listCourses, putCourse } from '../courses';
import type { Store } from '../database/open';
import { Refusal } from '../refusal';

/** `/api/courses`: how each passage is practised. */
export const courseRoutes = (store: Store): Router => {
  const routes = Router();
  routes.get('/', async (_request, response) => {
    response.json(await listCourses(store));
  });
  routes.put('/:id', async (request, response) => {
    const course = CourseSchema.parse(request.body);
    if (courseId(course) !== request.params.id) throw new Refusal(400, 'The course and its address do not agree.');
    await putCourse(store, course);
    response.json(course);
  });
  return routes;
};
