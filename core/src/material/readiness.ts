import type { PracticeConfig, PracticeConfigChange } from '../schema/practice-config';

/** One thing that should be so before speed, and what to do where it is not. */
export interface ReadinessCheck {
  id: string;
  question: string;
  /** What to do where it is not so yet. */
  otherwise: string;
  /** What of that Isochron can do: change how it is practised, begin slower, or lead to where marks are written. */
  help: { change: PracticeConfigChange } | 'slower' | 'mark';
}

/** What players make sure of before speed, in the order in which they do (common practice, no source). */
export const READINESS: readonly ReadinessCheck[] = [
  {
    id: 'notes',
    question: 'Do you know the notes?',
    otherwise: 'In chunks, without the click while you play.',
    help: { change: { methodId: 'chunks', click: { kind: 'none', divisions: 2, countInBars: 1 } } },
  },
  {
    id: 'rhythm',
    question: 'Can you clap the rhythm?',
    otherwise: 'The method “Clap, tap or sing first”.',
    help: { change: { methodId: 'clap-first' } },
  },
  {
    id: 'marks',
    question: 'Is the fingering, sticking or bowing settled and written in?',
    otherwise: 'Mark it in Material.',
    help: 'mark',
  },
  {
    id: 'through',
    question: 'Can you play it through at some tempo without stopping?',
    otherwise: 'In chunks.',
    help: { change: { methodId: 'chunks' } },
  },
  {
    id: 'relaxed',
    question: 'Is it relaxed at that tempo?',
    otherwise: 'Slower still, and look at the movement.',
    help: 'slower',
  },
];

/** How much slower it is begun where it is not loose yet (our choice; common practice says "clearly"). */
export const SLOWER_SHARE = 0.8;

/** How many of them are neither answered nor skipped. */
export const readinessLeft = (answers: PracticeConfig['readiness']): number =>
  READINESS.filter(({ id }) => answers[id] === undefined).length;
