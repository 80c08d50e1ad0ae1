import { describe, expect, it } from 'vitest';
import type { Onset } from '../schema/measures';
import { TOLERANCE_PRESETS } from '../schema/tolerance';
import { isFirstNote } from '../signal/first-onset';
import { chance } from '../stats/random';
import { describeReason } from '../words/describe-reason';
import { evenGridNotes, measureRecording } from './measure-recording';
import { onsetsOfRepetition } from './remeasure';

const notes = evenGridNotes({ tempoBpm: 80, notesPerBeat: 4, beats: 5, startS: 1 });

/** An onset for each note, off by `spreadMs`, each as sure as it is told to be. */
const heard = (spreadMs: number, seed: number, sureOf: (k: number) => Partial<Onset>): Onset[] => {
  const { normal } = chance(seed);
  return notes.map(({ timeS }, k) => ({ timeS: timeS + (spreadMs / 1000) * normal(), levelDb: -20, ...sureOf(k) }));
};
const measured = (onsets: readonly Onset[]) => measureRecording(onsets, notes, TOLERANCE_PRESETS.secure);
const CERTAIN = { confidence: 0.99, errorMs: 0.5 };
const DOUBTFUL = { confidence: 0.6, errorMs: 8 };

describe('how sure the ear was', () => {
  it('is counted, and an uneven repetition of many doubtful notes is not judged, with what would help', () => {
    const { measures, verdict } = measured(heard(25, 1, (k) => (k % 3 ? CERTAIN : DOUBTFUL)));
    expect(measures.unsure).toBe(7);
    expect(verdict).toMatchObject({ outcome: 'not-judged', reason: 'unsure' });
    expect(describeReason(verdict.why, { noteNaming: 'british' })).toMatch(/^7 of 20 notes .* nearer.*MIDI/);
  });

  it('leaves the same repetition judged where the ear was sure, and one that is clean all the same', () => {
    expect(measured(heard(25, 1, () => CERTAIN)).verdict.outcome).not.toBe('not-judged');
    expect(measured(heard(2, 1, (k) => (k % 3 ? CERTAIN : DOUBTFUL))).verdict.outcome).toBe('clean');
  });

  it('bears a few doubtful notes, and knows none where the input is no sound', () => {
    expect(measured(heard(25, 1, (k) => (k < 4 ? DOUBTFUL : CERTAIN))).verdict.outcome).not.toBe('not-judged');
    expect(measured(heard(25, 1, () => ({}))).measures.unsure).toBeUndefined();
  });

  it('takes its own noise off the spread, and widens the interval by how little that is known', () => {
    const onsets = (errorMs: number) => heard(6, 4, () => ({ confidence: 0.99, errorMs }));
    const [exact, blurred] = [0, 4].map((errorMs) => measured(onsets(errorMs)).measures.spreadMs);
    expect(blurred?.value).toBeCloseTo(Math.sqrt((exact?.value ?? 0) ** 2 - 16), 6);
    // Of 4 ms of noise that may be half as much again, or half as much.
    expect(blurred?.low).toBeCloseTo(Math.sqrt(Math.max(0, (exact?.low ?? 0) ** 2 - 36)), 6);
    expect(blurred?.high).toBeCloseTo(Math.sqrt((exact?.high ?? 0) ** 2 - 4), 6);
  });

  it('is kept with each note, so that a correction by hand that is undone gives back the same figures', () => {
    const { notes: results } = measured(heard(6, 4, () => ({ confidence: 0.97, errorMs: 2.5, fadeDb: 7 })));
    const [again] = onsetsOfRepetition({ notes: results, extras: [] });
    expect(again).toMatchObject({ confidence: 0.97, errorMs: 2.5, fadeDb: 7 });
  });

  it('does not count a note too many that may be none', () => {
    const played = heard(2, 3, () => CERTAIN);
    const between = { timeS: 1.28, levelDb: -30 };
    const withExtra = (extra: Onset) => measured([...played, extra].sort((a, b) => a.timeS - b.timeS));
    const doubtful = withExtra({ ...between, ...DOUBTFUL });
    expect(doubtful.measures.extra).toBe(0);
    expect(doubtful.extras).toHaveLength(1);
    expect(doubtful.verdict.outcome).toBe('clean');
    expect(withExtra({ ...between, ...CERTAIN }).measures.extra).toBe(1);
  });
});

describe('what a recording begins on', () => {
  const at = (levelDb: number) => ({ levelDb });

  it('is a note where it is about as loud as the next, or dies away', () => {
    expect(isFirstNote(at(-20), -45, at(-22))).toBe(true);
    expect(isFirstNote(at(-30), -60, null)).toBe(true);
    // A held tone, as loud as what follows.
    expect(isFirstNote(at(-20), -20, at(-24))).toBe(true);
  });

  it('is noise where it goes on as it began, far under the notes, or nothing follows', () => {
    expect(isFirstNote(at(-62), -61, at(-20))).toBe(false);
    expect(isFirstNote(at(-40), -39, at(-25))).toBe(false);
    expect(isFirstNote(at(-60), -61, null)).toBe(false);
    expect(isFirstNote(at(-70), -20, at(-20))).toBe(false);
  });
});
