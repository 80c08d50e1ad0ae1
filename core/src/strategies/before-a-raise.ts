import type { RepetitionOutcome, SessionTarget } from './strategy';

/** Fewer notes than this make a wide interval. */
const FEW_NOTES = 8;
const VERY_FEW_NOTES = 5;

/** What still stands before a raise: so many more repetitions, and why; null where nothing does. */
export const beforeRaise = (
  { notes = FEW_NOTES }: Pick<RepetitionOutcome, 'notes'>,
  { minRepetitions = 1 }: Pick<SessionTarget, 'minRepetitions'>,
  /** At this tempo, this one with them. */
  here: { played: number; cleanInARow: number },
): { code: 'few-notes' | 'least-repetitions'; more: number } | null => {
  const cleans = notes >= FEW_NOTES ? 1 : notes >= VERY_FEW_NOTES ? 2 : 3;
  if (here.cleanInARow < cleans) return { code: 'few-notes', more: cleans - here.cleanInARow };
  if (here.played < minRepetitions) return { code: 'least-repetitions', more: minRepetitions - here.played };
  return null;
};
