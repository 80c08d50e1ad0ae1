import type { PracticeConfig } from '../schema/practice-config';

/** One thing that should be so before speed, and what to do where it is not. */
export interface ReadinessCheck {
  id: string;
  question: string;
  otherwise: string;
}

/** What players make sure of before speed, in the order in which they do (common practice, no source). */
export const READINESS: readonly ReadinessCheck[] = [
  { id: 'notes', question: 'Do you know the notes?', otherwise: 'If not: without the click, a bar at a time.' },
  { id: 'rhythm', question: 'Can you clap the rhythm?', otherwise: 'If not: the method “Clap, tap or sing first”.' },
  {
    id: 'marks',
    question: 'Is the fingering, sticking or bowing settled and written in?',
    otherwise: 'If not: mark it in Material.',
  },
  {
    id: 'through',
    question: 'Can you play it through at some tempo without stopping?',
    otherwise: 'If not: slower, or in chunks.',
  },
  { id: 'relaxed', question: 'Is it relaxed at that tempo?', otherwise: 'If not: slower still, and look at the movement.' },
];

/** How many of them are neither answered nor skipped. */
export const readinessLeft = (answers: PracticeConfig['readiness']): number =>
  READINESS.filter(({ id }) => answers[id] === undefined).length;
