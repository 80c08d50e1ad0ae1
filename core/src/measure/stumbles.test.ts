import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { alignAtOffset, SETTLED_OFFSET_S } from '../align/align';
import type { ExpectedNote } from '../time/repetition-plan';
import { evenGridNotes } from './measure-recording';
import { likelyStumbles } from './stumbles';

/** Notes with steps of so many hundredths of a second. */
const notesOf = (steps: readonly number[]): ExpectedNote[] => {
  const [plain] = evenGridNotes({ tempoBpm: 120, notesPerBeat: 1, beats: 1, startS: 1 });
  let timeS = 1;
  return steps.map((step, index) => {
    const note = { ...(plain as ExpectedNote), index, timeS, intervalS: step / 100 };
    timeS += step / 100;
    return note;
  });
};

/** What a stumble at each note costs, each tried: the note again, and all from there on a step late, as far as was listened. */
const allCosts = (notes: readonly ExpectedNote[], onsetsS: readonly number[], offsetS: number): number[] =>
  notes.slice(0, -1).map((note, index) => {
    const late = notes.slice(index).map((one) => ({ ...one, timeS: one.timeS + note.intervalS }));
    const untilS = (notes.at(-1) as ExpectedNote).timeS + SETTLED_OFFSET_S;
    const heard = [...notes.slice(0, index + 1), ...late].filter(({ timeS }) => timeS <= untilS);
    return alignAtOffset(heard, onsetsS, offsetS).cost;
  });

const ascending = (a: number, b: number) => a - b;

describe('the likeliest places of a stumble', () => {
  it('are as likely as the best of all places, each tried', () => {
    const steps = fc.array(fc.constantFrom(12, 12, 12, 18, 25, 50), { minLength: 6, maxLength: 24 });
    const played = fc.array(fc.double({ min: 0.8, max: 8, noNaN: true }), { minLength: 1, maxLength: 30 });
    fc.assert(
      fc.property(steps, played, fc.double({ min: -0.1, max: 0.1, noNaN: true }), (own, times, offset) => {
        const notes = notesOf(own);
        const onsetsS = [...times].sort(ascending);
        const best = [0, offset].flatMap((by) => allCosts(notes, onsetsS, by)).sort(ascending);
        const heardBy = [0, offset].map((by) => ({ offset: by, onsetsS }));
        const found = likelyStumbles(notes, heardBy).map(({ one, offset: by }) => alignAtOffset(one.notes, onsetsS, by).cost);
        expect(found).toHaveLength(Math.min(6, best.length));
        for (const [k, cost] of found.sort(ascending).entries()) expect(cost).toBeCloseTo(best[k] as number, 9);
      }),
      { numRuns: 400 },
    );
  });

  it('begin with the note that was played twice, among uneven ones', () => {
    const notes = notesOf([25, 12, 12, 50, 25, 18, 25, 12, 12, 50, 25]);
    const at = 5;
    const stepS = (notes[at] as ExpectedNote).intervalS;
    const onsetsS = notes.flatMap(({ timeS }, k) => (k < at ? [timeS] : k === at ? [timeS, timeS + stepS] : [timeS + stepS]));
    expect(likelyStumbles(notes, [{ offset: 0, onsetsS }])[0]?.one.playedAs).toEqual({ kind: 'stumble', note: at });
  });
});
