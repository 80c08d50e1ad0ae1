import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { writeText } from '../formats/score/text-write';
import type { Passage } from '../schema/passage';
import { type NoteMove, withNoteMoved, withNotePitch } from './move-note';

const typed = (notes: string, key = 'C'): Passage =>
  passageOfScore(readText(`meter: 4/4\nkey: ${key}\n${notes}`), 'typed').passage;
const moved = (passage: Passage, place: number, move: NoteMove): string => {
  const id = passage.notes[place]?.id ?? '';
  return (
    writeText(withNoteMoved(passage, id, move))
      .trim()
      .split('\n')
      .at(-1)
      ?.replaceAll('/4', '') ?? ''
  );
};

describe('a note that is struck on another instrument', () => {
  const struck = (passage: Passage, midi: number) =>
    withNotePitch(passage, passage.notes[0]?.id ?? '', midi).notes.map(({ pitch }) => pitch);

  it('is written as its key spells it, where it is written on a transposing instrument, with what it is tied to', () => {
    expect(struck(typed('C4/4~ C4 D4 E4 |', 'Eb'), 66)[0]).toEqual({ step: 'G', alter: -1, octave: 4 });
    expect(struck(typed('C4/4~ C4 D4 E4 |', 'Eb'), 66)[1]).toEqual({ step: 'G', alter: -1, octave: 4 });
    const inB = { ...typed('C4/4 D4 E4 F4 |'), transposition: -2 };
    expect(struck(inB, 60)[0]).toEqual({ step: 'D', alter: 0, octave: 4 });
    const high = { ...typed('C4/4 D4 E4 F4 |'), transposition: -12 };
    expect(struck(high, 120)).toEqual(high.notes.map(({ pitch }) => pitch));
    // A note without pitch gets one.
    expect(struck(typed('x/4 D4 E4 F4 |'), 60)[0]).toEqual({ step: 'C', alter: 0, octave: 4 });
  });
});

describe('a note that is moved', () => {
  it.each([
    ['step up', 'C', 'D4 B4 E4 F4 |'],
    ['step down', 'C', 'D4 G4 E4 F4 |'],
    ['semitone up', 'C', 'D4 A#4 E4 F4 |'],
    ['semitone down', 'C', 'D4 Ab4 E4 F4 |'],
    ['step up', 'F', 'D4 Bb4 E4 F4 |'],
  ] as const)('goes a %s in %s', (move, key, notes) => {
    expect(moved(typed('D4/4 A4 E4 F4 |', key), 1, move)).toBe(notes);
  });

  it('crosses the octave, and takes a plain name rather than three signs', () => {
    expect(moved(typed('B4/4 C5 E4 F4 |'), 0, 'step up')).toBe('C5 C5 E4 F4 |');
    expect(moved(typed('B4/4 C5 E4 F4 |'), 1, 'step down')).toBe('B4 B4 E4 F4 |');
    expect(moved(typed('D4/4 A#4 E4 F4 |'), 1, 'semitone up')).toBe('D4 B4 E4 F4 |');
  });

  it('takes those along that it is tied to, over the bar line, and no others of its pitch', () => {
    const passage = typed('A4/2 A4/2~ | A4/2~ A4/4 A4/4 |');
    const pitches = (of: Passage) => of.notes.map(({ pitch }) => pitch?.step).join('');
    for (const place of [1, 2, 3])
      expect(pitches(withNoteMoved(passage, passage.notes[place]?.id ?? '', 'step up'))).toBe('ABBBA');
  });

  it('stays where it has no pitch, is not there, or would leave what can be written', () => {
    const passage = typed('x/4 G9/4 r/2 |');
    const [clap, high] = passage.notes;
    for (const id of [clap?.id ?? '', 'nowhere']) expect(withNoteMoved(passage, id, 'step up')).toBe(passage);
    expect(withNoteMoved(passage, high?.id ?? '', 'semitone up')).toBe(passage);
  });
});
