import type { Course, CourseChange } from '@isochron/core';

/** A choice about how something is practised: the course as it is, and what changes it. */
export interface CourseChoice {
  course: Course;
  change(part: CourseChange): void;
}

/** A list as a field offers it. */
export const nameChoices = (list: readonly { id: string; name: string }[]) => list.map(({ id, name }) => ({ value: id, name }));
