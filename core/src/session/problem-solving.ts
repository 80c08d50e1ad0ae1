import { widestStep } from '../measure/measure-repetition';
import type { Repetition } from '../schema/take';

/**
 * The questions worth asking when a tempo will not come clean, the measured one first. Common practice, no source.
 */
export const problemQuestions = (repetitions: readonly Repetition[]): string[] => {
  const last = repetitions.at(-1);
  const step = last ? widestStep(last.notes) : null;
  const measured = step
    ? [
        `The step from note ${step.fromIndex + 1} to the next was ${Math.abs(step.differenceMs).toFixed(0)} ms too ${
          step.differenceMs > 0 ? 'long' : 'short'
        }. Is it that one?`,
      ]
    : [];
  return [
    ...measured,
    'Would it go slower, or in a smaller piece?',
    'Another fingering, stroke or starting hand?',
    'If it feels hard even very slowly, the fingering or the movement is the suspect, not the speed.',
  ];
};
