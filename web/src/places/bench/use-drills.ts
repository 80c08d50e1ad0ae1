import { type Drill, dayNumber, drillsOfConfig, now, type Passage, type PracticeConfig } from '@isochron/core';
import { useMemo } from 'react';

/** The drills that a course asks for today; the same ones until something that they are made of changes. */
export const useDrills = (passage: Passage, course: PracticeConfig): readonly Drill[] => {
  const { variantId, sectionId, methodId, alsoMethodId, methodParameters, click, rotates } = course;
  const day = dayNumber(now());
  // biome-ignore lint/correctness/useExhaustiveDependencies: goal, schools and closings change no note.
  return useMemo(
    () => drillsOfConfig(passage, course, day),
    [
      passage,
      day,
      variantId,
      sectionId,
      methodId,
      alsoMethodId,
      rotates,
      JSON.stringify(methodParameters),
      JSON.stringify(click),
    ],
  );
};
