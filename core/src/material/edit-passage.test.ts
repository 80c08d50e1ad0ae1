import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { PassageSchema } from '../schema/passage';
import { duplicateOf, forInstrument, rewritten, withHandsSwapped, withMark, withVariant } from './edit-passage';
import { instrumentOf } from './instruments';

const typed = (text: string) => passageOfScore(readText(text), 'typed').passage;
const before = typed('title: One\nmeter: 2/4\nC4@1/8 D@2 E@3 F@4 |');
const idAt = (passage: typeof before, at: string) => passage.notes.find((note) => note.at === at)?.id ?? '';

describe('notes that are written anew', () => {
  it('keep their ids and marks where they stayed, and get new ones where they are new', () => {
    const after = rewritten(before, typed('title: Two\nmeter: 2/4\nC4/8 D G F | A/2 |'));
    expect(PassageSchema.safeParse(after).error).toBeUndefined();
    expect(after.title).toBe('Two');
    for (const at of ['0', '1/2', '3/2']) expect(idAt(after, at)).toBe(idAt(before, at));
    expect(idAt(after, '1')).not.toBe(idAt(before, '1'));
    expect(Object.values(after.variants[0]?.marks ?? {}).map(({ finger }) => finger)).toEqual(['1', '2', '4']);
  });

  /** The fingers by the pitch that they stand at, in order. */
  const fingers = (text: string) => {
    const after = rewritten(before, typed(text));
    expect(PassageSchema.safeParse(after).error).toBeUndefined();
    const marks = after.variants[0]?.marks ?? {};
    return after.notes.map(({ id, pitch }) => `${pitch?.step}${marks[id]?.finger ?? ''}`).join(' ');
  };

  it.each([
    ['a bar is put in before them', 'G4/4 G | C4/8 D E F |', 'G G C1 D2 E3 F4'],
    ['a note is put in between', 'C4/8 D G E | F/2 |', 'C1 D2 G E3 F4'],
    ['a note is taken out', 'C4/8 E F r |', 'C1 E3 F4'],
    ['one has another pitch', 'C4/8 D Eb F |', 'C1 D2 E3 F4'],
    ['one has another length', 'C4/8 D/16 r/16 E/8 F |', 'C1 D2 E3 F4'],
  ])('keep them where %s', (_, notes, kept) => {
    expect(fingers(`title: Two\nmeter: 2/4\n${notes}`)).toBe(kept);
  });

  it('have none of them where it is other music', () => {
    expect(fingers('title: Two\nmeter: 2/4\nG4/8 A B G |')).toBe('G A B G');
  });

  it('lose the marks that are taken out of the text, and keep those that never stood in it', () => {
    const fingersAfter = (text: string, read: typeof before | null) => {
      const { variants, notes } = rewritten(before, typed(text), read);
      return notes.map(({ id }) => variants[0]?.marks[id]?.finger ?? '-').join('');
    };
    const without = 'title: One\nmeter: 2/4\nC4@1/8 D E@3 F@4 |';
    expect(fingersAfter(without, before)).toBe('1-34');
    // The text had said nothing of the second note, which was marked elsewhere.
    expect(fingersAfter(without, typed(without))).toBe('1234');
    expect(fingersAfter(without, null)).toBe('1234');
    // Where a note goes and another comes, its mark is not taken for one that was erased.
    expect(fingersAfter('title: One\nmeter: 2/4\nC4@1/8 E@3 F@4 G |', before)).toBe('134-');
    const two = withMark(before, 'first', idAt(before, '1/2'), { breath: true });
    const after = rewritten(two, typed(without), before);
    expect(after.variants[0]?.marks[idAt(before, '1/2')]).toEqual({ breath: true });
  });

  it('never get an id back that was taken out', () => {
    const shorter = rewritten(before, typed('title: Two\nmeter: 2/4\nC4/8 E F r |'));
    const longer = rewritten(shorter, typed('title: Two\nmeter: 2/4\nC4/8 E A F |'));
    const gone = before.notes.filter(({ id }) => !shorter.notes.some((note) => note.id === id)).map(({ id }) => id);
    expect(gone).toHaveLength(1);
    expect(longer.notes.map(({ id }) => id)).not.toContain(gone[0]);
  });

  it('cut sections to the bars that are there, and keep what the passage is', () => {
    const withSection = { ...before, bars: 1, about: 'mine', sections: [{ id: 'a', name: 'A', fromBar: 1, toBar: 1 }] };
    const after = rewritten(withSection, typed('title: Two\nmeter: 2/4\nC4/2 |'));
    expect(after).toMatchObject({ id: 'typed', about: 'mine', sections: [{ name: 'A' }] });
  });
});

describe('marks and variants', () => {
  it('are changed one by one, and taken away', () => {
    const id = idAt(before, '0');
    const marked = withMark(before, 'first', id, { finger: '5', breath: true });
    expect(marked.variants[0]?.marks[id]).toEqual({ finger: '5', breath: true });
    expect(withMark(marked, 'first', id, { finger: '', breath: false }).variants[0]?.marks[id]).toBeUndefined();
  });

  it('stand side by side', () => {
    const two = withVariant(before, 'first', 'second', 'thumb first');
    const changed = withMark(two, 'second', idAt(before, '0'), { finger: '3' });
    expect(changed.variants.map(({ marks }) => marks[idAt(before, '0')]?.finger)).toEqual(['1', '3']);
    expect(PassageSchema.safeParse(changed).error).toBeUndefined();
  });

  it('swap hands and strokes', () => {
    const passage = typed('title: S\nmeter: 1/4\nx@R/8 x@L@up |');
    const marks = Object.values(withHandsSwapped(passage, 'first').variants[0]?.marks ?? {});
    expect(marks).toEqual([{ hand: 'left' }, { hand: 'right', stroke: 'down' }]);
  });
});

it('a passage is read by a transposing instrument as it is written', () => {
  expect(forInstrument(before, instrumentOf('clarinet'))).toMatchObject({
    instrumentId: 'clarinet',
    transposition: -2,
    notes: before.notes,
  });
  expect(forInstrument(forInstrument(before, instrumentOf('clarinet')), instrumentOf('piano')).transposition).toBeUndefined();
});

it('a copy has another id and the same notes', () => {
  expect(duplicateOf(before, 'copy')).toMatchObject({ id: 'copy', title: 'One (copy)', notes: before.notes });
});
