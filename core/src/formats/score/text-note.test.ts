import { describe, expect, it } from 'vitest';
import { readText } from './text-read';

const wrongOf = (notes: string): string => {
  try {
    readText(`meter: 4/4\n${notes}\n`);
  } catch (error) {
    return (error as Error).message;
  }
  return '';
};

describe('what is typed wrong', () => {
  it.each([
    ['c4/8', 'C4/8'],
    ['z/4', 'r/4'],
    ['C4#/8', 'C#4/8'],
    ['C4/8@3', 'C4@3/8'],
    ["F#4/8.@R'", "F#4@R/8.'"],
    ['C4>/8', 'C4/8>'],
    ['8C4', 'C4/8'],
    ['C4:16', 'C4/16'],
  ])('is told how it is written right: %s', (typed, right) => {
    expect(wrongOf(`C4/4 ${typed}`)).toBe(`Line 2, “${typed}”: this is not understood. Perhaps ${right}?`);
    expect(wrongOf(`C4/4 ${right}`)).toBe('');
  });

  it.each([
    ['C4/12', '3:2[C4/8'],
    ['C4/24', '3:2[C4/16'],
    ['C4/20', '5:4[C4/16'],
    ['G4/14', '7:4[G4/8'],
  ])('as a value that is part of a group is told the group: %s', (typed, group) => {
    expect(wrongOf(typed)).toContain(`begin with ${group} and end with ].`);
    expect(wrongOf(`${group} D4 E4 ] r/4`)).toBe('');
  });

  it('is told with its place where groups are not opened or closed', () => {
    expect(wrongOf('3:2[C4/8 D E | F/4')).toBe('Line 2, “3:2[”: this group is never closed: write ] after its last note.');
    expect(wrongOf('C4/4 D ] E')).toBe('Line 2, “]”: this closes a group, and none is open. One begins like 3:2[.');
    expect(wrongOf('{ C4 D4 E4/4')).toContain('grace notes are still open here');
    expect(wrongOf('H4/4')).toContain('The note under C is B here');
    expect(wrongOf('[3')).toContain('3:2[C4/8 D E]');
    expect(wrongOf('C4/3')).toContain('a value is 1, 2, 4, 8, 16, 32 or 64.');
    expect(wrongOf('Wibble')).toContain('A note is written like C4/8');
  });
});

describe('bar lines in typed notation', () => {
  const barsOf = (text: string) =>
    readText(`meter: 2/4\n${text}`).bars.map(({ notes, endsRepeat, endings }) => [
      notes.length,
      endsRepeat ?? 0,
      endings ?? [],
    ]);

  it('may touch the notes beside them', () => {
    expect(barsOf('C4/4 D|E F|3:2[G4/4 A B]|C5/2')).toEqual(barsOf('C4/4 D | E F | 3:2[ G4/4 A B ] | C5/2'));
    expect(barsOf('|:C4/4 D|1 E F:|2 G/2||C')).toEqual(barsOf('|: C4/4 D |1 E F :|2 G/2 || C'));
  });
});
