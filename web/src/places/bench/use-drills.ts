import { drillsOfConfig } from '@isochron/core/planning';
import { type Drill, dayNumber, now, type Passage, type PracticeConfig } from '@isochron/core/schema';
import { useMemo } from 'react';

/** The drills that a configuration asks for today; the same ones until something that they are made of changes. */
export const useDrills = (passage: Passage, config: PracticeConfig): readonly Drill[] => {
  const { variantId, sectionId, methodId, alsoMethodId, methodParameters, click, rotates } = config;
  const day = dayNumber(now());
  // biome-ignore lint/correctness/useExhaustiveDependencies: goal, strategies and summaries change no note.
  return useMemo(
    () => drillsOfConfig(passage, config, day),
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
