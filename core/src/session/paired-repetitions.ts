import { askedBpm } from '../plan/asked-bpm';
import type { Repetition } from '../schema/take';

/** Two repetitions of the same notes that lie beside each other, and how far their tempos are apart. */
export interface RepetitionPair {
  one: Repetition;
  other: Repetition;
}

/**
 * Repetitions of two takes side by side: those whose tempos lie nearest, each in one pair at most; the fastest pair first. Of as near
 * ones the later in their takes, which say more of where they came to.
 *
 * @param count how many pairs at most
 */
export const pairedRepetitions = (
  ones: readonly Repetition[],
  others: readonly Repetition[],
  count: number,
): RepetitionPair[] => {
  const apart = ({ one, other }: RepetitionPair) => Math.abs(askedBpm(one) - askedBpm(other));
  const all = ones
    .flatMap((one) => others.map((other): RepetitionPair => ({ one, other })))
    .sort((a, b) => apart(a) - apart(b) || b.one.index + b.other.index - (a.one.index + a.other.index));
  const pairs: RepetitionPair[] = [];
  for (const pair of all) {
    if (pairs.length === count) break;
    if (!pairs.some(({ one, other }) => one === pair.one || other === pair.other)) pairs.push(pair);
  }
  return pairs.sort((a, b) => askedBpm(b.one) - askedBpm(a.one) || b.one.index - a.one.index);
};
