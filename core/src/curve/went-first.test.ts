import { describe, expect, it } from 'vitest';
import { chance } from '../stats/random';
import { openTempo } from '../time/tempo-map';
import { sweptNotes } from './swept-notes';
import { wentFirst } from './went-first';

const NOTES = 512;
const map = openTempo({
  kind: 'ramp',
  points: [
    { beat: 0, bpm: 60 },
    { beat: NOTES / 4, bpm: 150 },
  ],
});
const EXPECTED = Array.from({ length: NOTES }, (_, k) => ({ index: k, beat: k / 4, timeS: map.timeOf(k / 4) }));

/** A sweep over a passage of so many notes that breaks at 105; the unsteadiness of some of its notes grows so many times as much there. */
const sweep = (passage: number, weak: readonly number[], times: number, seed: number, missing = 0) => {
  const { normal, uniform } = chance(seed);
  const notes = EXPECTED.map(({ index, beat }) => {
    const tenths = Math.max(0, map.tempoAt(beat) / 105 - 1) / 0.1;
    const isWeak = tenths > 0 && weak.includes(index % passage);
    const isMissing = isWeak && uniform() < missing;
    const unsteadinessMs = 4 * 1.8 ** tenths * (isWeak ? times : 1) * normal();
    return { index, deviationMs: isMissing ? null : unsteadinessMs };
  });
  const places = EXPECTED.slice(1).map(({ index }) => index % passage);
  return wentFirst(sweptNotes(notes, EXPECTED), places, 105);
};

describe('the notes that went first in a sweep', () => {
  it.each([8, 16, 32])('are none where all go alike, in passages of %i notes', (passage) => {
    const named = Array.from({ length: 200 }, (_, k) => sweep(passage, [], 1, k + 1)).filter((found) => found.length > 0);
    expect(named.length).toBeLessThanOrEqual(14);
  });

  // The longer the passage, the fewer times each note comes round beyond the break.
  it.each([
    [8, 4],
    [16, 4],
    [32, 7],
  ])('are found where one was planted, in passages of %i notes, %i times as wild as the others', (passage, times) => {
    const found = Array.from({ length: 60 }, (_, k) => ({
      planted: k % passage,
      got: sweep(passage, [k % passage], times, k + 1)[0],
    }));
    const right = found.filter(({ planted, got }) => planted === got);
    expect(right.length).toBeGreaterThanOrEqual(48);
  });

  it('are at most two, and found by being left out as well', () => {
    expect(sweep(16, [3, 9, 12], 6, 5).length).toBe(2);
    const left = Array.from({ length: 20 }, (_, k) => sweep(16, [5], 1, k + 1, 0.8)[0]);
    expect(left.filter((place) => place === 5).length).toBeGreaterThanOrEqual(16);
  });

  it('are not sought where too little lies beyond the break', () => {
    const swept = sweptNotes(
      EXPECTED.slice(0, 20).map(({ index }) => ({ index, deviationMs: 3 })),
      EXPECTED.slice(0, 20),
    );
    expect(
      wentFirst(
        swept,
        swept.map((_, k) => k % 4),
        59,
      ),
    ).toEqual([]);
    expect(wentFirst([], [], 100)).toEqual([]);
  });
});
