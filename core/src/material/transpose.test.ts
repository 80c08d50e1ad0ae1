import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { writeText } from '../formats/score/text-write';
import { BUILT_IN_PASSAGES } from '../rhythm/built-in-passages';
import { midiOf } from '../rhythm/pitch';
import type { Passage } from '../schema/passage';
import { transposed, transpositions } from './transpose';

const typed = (text: string): Passage => passageOfScore(readText(text), 'typed').passage;
const moved = (text: string, semitones: number): string => {
  const written = writeText(transposed(typed(text), semitones) as Passage);
  return written
    .split('\n')
    .filter((line) => /^key|\|$/.test(line))
    .join(' / ');
};

describe('a transposed passage', () => {
  it('has the key that musicians expect, and every interval keeps its name', () => {
    // Handbook cases (common practice): a tone up for B flat instruments, a minor third down for A.
    expect(moved('meter: 4/4\nkey: F\nF4/4 A Bb B |', 2)).toBe('key: G / G4/4 B4/4 C5/4 C#5/4 |');
    expect(moved('meter: 4/4\nkey: C\nC4/4 F#4 Bb4 G4 |', -3)).toBe('key: A / A3/4 D#4/4 G4/4 E4/4 |');
    expect(moved('meter: 4/4\nkey: D\nD4/4 C#4 F#4 D4 |', 1)).toBe('key: Eb / Eb4/4 D4/4 G4/4 Eb4/4 |');
  });

  it('is refused where a note would leave what can be written', () => {
    expect(transposed(typed('meter: 4/4\nG9/1 |'), 1)).toBeNull();
    expect(transposed(typed('meter: 4/4\nG9/1 |'), -1)).not.toBeNull();
  });

  it('leaves drums where they are', () => {
    const beat = typed('meter: 2/4\nclef: percussion\nC2/4 D2 |');
    expect(transposed(beat, 5)?.notes).toEqual(beat.notes);
  });

  it('is offered by the semitones that every note can be moved by', () => {
    for (const passage of [...BUILT_IN_PASSAGES, typed('meter: 4/4\nG9/4 C0 C4 C4 |')])
      for (let semitones = -12; semitones <= 12; semitones += 1)
        expect(transpositions(passage).includes(semitones)).toBe(semitones !== 0 && transposed(passage, semitones) !== null);
  });

  it('moves every pitch alike, and back again, in every built-in passage', () => {
    fc.assert(
      fc.property(fc.constantFrom(...BUILT_IN_PASSAGES), fc.integer({ min: -12, max: 12 }), (passage, semitones) => {
        const there = transposed(passage, semitones);
        if (!there) return;
        const pitches = (of: Passage) => of.notes.map(({ pitch }) => (pitch ? midiOf(pitch) : null));
        const isDrums = passage.staves.every(({ clef }) => clef === 'percussion');
        expect(pitches(there)).toEqual(pitches(passage).map((midi) => (midi === null || isDrums ? midi : midi + semitones)));
        for (const { fifths } of there.keys) expect(Math.abs(fifths)).toBeLessThanOrEqual(7);
        expect(pitches(transposed(there, -semitones) as Passage)).toEqual(pitches(passage));
      }),
    );
  });
});
