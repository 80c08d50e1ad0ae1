import type { ScoreBar } from './score';

/** Jumps and their marks, as words beside the music or as the names of signs (common practice). */
const JUMPS: readonly { says: RegExp; mark: Partial<ScoreBar> }[] = [
  { says: /^segno$/i, mark: { segno: '' } },
  { says: /^(?:da|to)\s*coda\b/i, mark: { toCoda: true } },
  { says: /^coda$/i, mark: { coda: true } },
  { says: /^fine\.?$/i, mark: { fine: true } },
  { says: /^(?:d\. ?c\.?|dc|da capo)(?:$|[ .,(]|al)/i, mark: { jump: 'da capo' } },
  { says: /^(?:d\. ?s\.?|ds|dal segno)(?:$|[ .,(]|al)/i, mark: { jump: 'dal segno' } },
];

/** Marks a bar with what words beside it say of the order of bars; other words say nothing. */
export const readJumpWords = (words: string, bar: ScoreBar): void => {
  Object.assign(bar, JUMPS.find(({ says }) => says.test(words.trim()))?.mark);
};
