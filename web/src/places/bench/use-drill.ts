import { type Course, type Drill, drillOf, type Passage } from '@isochron/core';
import { useMemo } from 'react';

/** The drill that a course asks for; the same one until something that it is made of changes. */
export const useDrill = (passage: Passage, course: Course): Drill => {
  const { variantId, sectionId, methodId, methodParameters, click } = course;
  // biome-ignore lint/correctness/useExhaustiveDependencies: goal, schools and closings change no note.
  return useMemo(
    () => drillOf(passage, course),
    [passage, variantId, sectionId, methodId, JSON.stringify(methodParameters), JSON.stringify(click)],
  );
};
