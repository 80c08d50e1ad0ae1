import { widestStep } from '../measure/measure-repetition';
import type { Repetition } from '../schema/take';
import { type Why, why } from '../schema/why';

/**
 * The questions worth asking when a tempo will not come clean, the measured one first. Common practice, no source.
 */
export const problemQuestions = (repetitions: readonly Repetition[]): Why[] => {
  const last = repetitions.at(-1);
  const step = last ? widestStep(last.notes) : null;
  const measured = step ? [why('ask-step', { note: step.fromIndex + 1, ms: step.differenceMs })] : [];
  return [...measured, why('ask-smaller'), why('ask-fingering'), why('ask-movement')];
};
