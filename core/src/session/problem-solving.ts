import { widestStep } from '../measure/measure-repetition';
import { makeReason, type Reason } from '../schema/reason';
import type { Repetition } from '../schema/take';

/**
 * The questions worth asking when a tempo will not come clean, the measured one first. Common practice, no source.
 */
export const problemQuestions = (repetitions: readonly Repetition[]): Reason[] => {
  const last = repetitions.at(-1);
  const step = last ? widestStep(last.notes) : null;
  const measured = step ? [makeReason('ask-step', { note: step.fromIndex + 1, ms: step.differenceMs })] : [];
  return [...measured, makeReason('ask-smaller'), makeReason('ask-fingering'), makeReason('ask-movement')];
};
