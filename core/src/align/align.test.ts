import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { evenGridNotes } from '../measure/measure-recording';
import { simulatePlaying } from '../player/simulate';
import { STEADY } from '../schema/skill';
import { chance } from '../stats/random';
import type { ExpectedNote } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { align, alignAtOffset, alignWhereGood, EQUALLY_GOOD, MAX_OFFSET_S, SETTLED_OFFSET_S, UNKNOWN_OFFSET } from './align';

const notes = evenGridNotes({ tempoBpm: 120, notesPerBeat: 4, beats: 4, startS: 0 });

/** The least cost over every monotonic pairing, tried one by one: pairs by half intervals, 0.5 for what stays alone. */
const exhaustive = (expected: readonly ExpectedNote[], onsets: readonly number[]): number => {
  const [note, ...restNotes] = expected;
  const [onset, ...restOnsets] = onsets;
  if (!note) return 0.5 * onsets.length;
  if (onset === undefined) return 0.5 * expected.length;
  const pair = Math.abs(onset - note.timeS) / (0.5 * note.intervalS);
  return Math.min(
    pair + exhaustive(restNotes, restOnsets),
    0.5 + exhaustive(restNotes, onsets),
    0.5 + exhaustive(expected, restOnsets),
  );
};

describe('alignment', () => {
  it('tried only where it may be good, finds all that are as good as the best of the offsets', () => {
    const uneven = notes.map((note, k) => ({ ...note, timeS: note.timeS + 0.03 * (k % 3), intervalS: 0.08 + 0.02 * (k % 4) }));
    const many = fc
      .array(fc.double({ min: -0.4, max: 2.4, noNaN: true }), { maxLength: 30 })
      .map((list) => list.sort((a, b) => a - b));
    const offsets = fc.array(fc.double({ min: -0.3, max: 0.3, noNaN: true }), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(many, offsets, fc.constantFrom(notes, uneven), (times, tried, expected) => {
        const all = tried.map((offsetS) => alignAtOffset(expected, times, offsetS));
        const least = Math.min(...all.map(({ cost }) => cost));
        expect(alignWhereGood(expected, times, tried)).toEqual(all.filter(({ cost }) => cost <= least + EQUALLY_GOOD));
      }),
      { numRuns: 500 },
    );
  });

  it('costs as little as the best of all pairings on small cases', () => {
    const small = notes.slice(0, 5);
    const onsets = fc
      .array(fc.double({ min: -0.1, max: 0.7, noNaN: true }), { maxLength: 6 })
      .map((list) => list.sort((a, b) => a - b));
    fc.assert(
      fc.property(onsets, (times) => {
        expect(alignAtOffset(small, times, 0).cost).toBeCloseTo(exhaustive(small, times), 9);
      }),
      { numRuns: 300 },
    );
  });

  it('pairs at least 99.5 % of notes rightly with 15 % of them missed, extra or late', () => {
    let right = 0;
    let total = 0;
    for (let seed = 1; seed <= 300; seed += 1) {
      const { uniform } = chance(seed);
      const habitsMs = Object.fromEntries(
        notes.flatMap(({ index }) => (uniform() < 0.05 ? [[index, 25 + 15 * uniform()]] : [])),
      );
      const skill = { ...STEADY, spreadMs: 10, habitsMs, missedShare: 0.05, extraShare: 0.05 };
      const played = simulatePlaying(notes, skill, constantTempo(120), seed);
      const { onsetOf } = align(
        notes,
        played.map((note) => note.timeS),
      );
      notes.forEach(({ index }) => {
        const truth = played.findIndex((note) => note.expected === index);
        const paired = onsetOf[index] ?? -1;
        const stray = truth < 0 ? played[paired] : undefined;
        // What sounds nearest to a line that nothing else is for is that note, late or early, by definition.
        const isThatNote = stray?.expected === null && Math.abs(stray.timeS - (notes[index] as ExpectedNote).timeS) < 0.0625;
        total += 1;
        if (paired === truth || isThatNote) right += 1;
      });
    }
    expect(right / total).toBeGreaterThanOrEqual(0.995);
  });

  it.each([-1, 1])('pairs one note that comes at %i times up to the middle between two lines: late or early, once', (sign) => {
    // Common practice: 61 ms at 100 quarters a minute in sixteenths of 150 ms is late, and not a missed and an added note.
    for (const shareOfInterval of [0.3, 0.41, 0.47])
      for (const which of [1, 7, 14]) {
        const played = notes.map((note) => note.timeS + (note.index === which ? sign * shareOfInterval * 0.125 : 0));
        const { onsetOf, extra } = align(notes, played, { nearS: 0, reachS: SETTLED_OFFSET_S });
        expect(onsetOf).toEqual(notes.map((_, k) => k));
        expect(extra).toEqual([]);
      }
  });

  it.each([0.02, 0.11, 0.19, 0.28])('finds a constant offset of %f s from the ends of the repetition', (offset) => {
    const alignment = align(
      notes,
      notes.map((note) => note.timeS + offset),
      UNKNOWN_OFFSET,
    );
    expect(alignment.offsetS).toBeCloseTo(offset, 3);
    expect(alignment.extra).toEqual([]);
    expect(alignment.onsetOf).toEqual(notes.map((_, k) => k));
  });

  it('takes the shift nearest the known latency and says the doubt where two fit', () => {
    // Without its first note, an even run fits an interval later just as well.
    const played = notes.slice(1).map((note) => note.timeS);
    const here = align(notes, played);
    expect(here).toMatchObject({ ambiguous: true, offsetS: 0 });
    expect(here.onsetOf[0]).toBeNull();
    const later = align(notes, played, { nearS: 0.12, reachS: MAX_OFFSET_S });
    expect(later.onsetOf[15]).toBeNull();
  });

  it('does not leave a latency that was seen before', () => {
    const played = [...notes.slice(1).map((note) => note.timeS), 2];
    const settled = align(notes, played, { nearS: 0, reachS: SETTLED_OFFSET_S });
    expect(settled).toMatchObject({ ambiguous: false, extra: [15] });
    expect(settled.onsetOf[0]).toBeNull();
  });

  it('misses everything where nothing sounds', () => {
    expect(align(notes, [])).toMatchObject({ extra: [], ambiguous: false });
    expect(align(notes, []).onsetOf.every((which) => which === null)).toBe(true);
  });
});
