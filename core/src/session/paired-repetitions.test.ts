import { describe, expect, it } from 'vitest';
import type { Repetition } from '../schema/take';
import { pairedRepetitions } from './paired-repetitions';

const played = (...tempos: number[]) => tempos.map((askedBpm, index) => ({ index, askedBpm }) as Repetition);
const tempos = (ones: Repetition[], others: Repetition[], count: number) =>
  pairedRepetitions(ones, others, count).map(({ one, other }) => [one.askedBpm, other.askedBpm]);

describe('repetitions of two takes side by side', () => {
  it('are those of the nearest tempos, the fastest pair first, each once', () => {
    expect(tempos(played(60, 80, 96), played(62, 97, 120), 2)).toEqual([
      [96, 97],
      [60, 62],
    ]);
    expect(tempos(played(80, 80), played(80), 5)).toEqual([[80, 80]]);
  });

  it('are the later ones where several are as near', () => {
    const [pair] = pairedRepetitions(played(80, 80, 80), played(80, 80), 1);
    expect([pair?.one.index, pair?.other.index]).toEqual([2, 1]);
  });

  it('are none where one of the takes has none', () => {
    expect(tempos(played(80), [], 3)).toEqual([]);
  });
});
