import type { Drill } from '../schema/grid';
import type { Repetition } from '../schema/take';
import type { Outcome } from '../schema/verdict';
import { headlineBpm } from '../time/tempo-map';
import { drillName } from './describe-reason';
import { bpmWords, type Reader } from './reader';

/** Verdicts as the player reads and hears them. */
const OUTCOME_WORDS: Record<Outcome, string> = {
  clean: 'Clean',
  close: 'Close',
  'not-yet': 'Not yet',
  broken: 'Came apart',
  'not-judged': 'Not judged',
};

/** The verdict of a repetition in a word or two. */
export const verdictWord = ({ verdict, measures }: Pick<Repetition, 'verdict' | 'measures'>): string =>
  measures.brokenOff && verdict.reason === 'broken-off' ? 'Broke off' : OUTCOME_WORDS[verdict.outcome];

/**
 * What is said aloud after a repetition: the verdict in a word and what comes next, short enough for a count-in.
 *
 * @param played the repetition with its decision
 * @param next the drill that comes next
 */
export const spokenDecision = (
  { verdict, measures, tempo, decision }: Pick<Repetition, 'verdict' | 'measures' | 'tempo' | 'decision'>,
  next: Drill | null,
  reader: Reader,
): string => {
  const word = verdictWord({ verdict, measures });
  const bpm = headlineBpm(decision.tempo);
  switch (decision.action) {
    case 'goal':
      return `${word}. The goal is reached.`;
    case 'done':
      return `${word}. Done.`;
    case 'problem':
      return `${word}. A moment to think.`;
    case 'stop':
      return 'Stop here.';
    case 'next':
      return next ? `${word}. Next: ${drillName(next, reader)}.` : `${word}. Next.`;
    default:
      if (next?.repetitionKind === 'retake') return `${word}. That place again.`;
      return bpm === headlineBpm(tempo) ? `${word}. ${bpmWords(bpm)} again.` : `${word}. Now ${bpmWords(bpm)}.`;
  }
};
