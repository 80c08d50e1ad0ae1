import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { writeText } from '../formats/score/text-write';
import { type Passage, PassageSchema } from '../schema/passage';
import { copiedBars, withBars, withoutBars, withSilentBar } from './edit-bars';
import { type NoteEdit, withNoteEdited } from './edit-note';

const typed = (notes: string, head = 'meter: 4/4'): Passage => passageOfScore(readText(`${head}\n${notes}`), 'typed').passage;
/** The music of a passage as text, without its head. */
const music = (passage: Passage): string => {
  expect(PassageSchema.safeParse(passage).error).toBeUndefined();
  return (writeText(passage).split('\n\n')[1] ?? '').trim().replaceAll('\n', ' ');
};
const edited = (notes: string, place: number, ...edits: NoteEdit[]): string => {
  let passage = typed(notes);
  const id = passage.notes[place]?.id ?? '';
  for (const edit of edits) passage = withNoteEdited(passage, id, edit);
  return music(passage);
};

describe('a note that is edited on the page', () => {
  it.each<[string, string, number, NoteEdit[], string]>([
    ['shorter: silence follows', 'C4/4 D E F |', 1, ['shorter'], 'C4/4 D4/8. r/16 E4/4 F4/4 |'],
    ['shorter twice', 'C4/4 D E F |', 1, ['shorter', 'shorter'], 'C4/4 D4/8 r/8 E4/4 F4/4 |'],
    ['longer: it takes time from what follows', 'C4/4 D E F |', 1, ['longer'], 'C4/4 D4/4. E4/8 F4/4 |'],
    ['longer still: what is covered goes', 'C4/4 D E F |', 1, ['longer', 'longer'], 'C4/4 D4/2 F4/4 |'],
    ['longer than the bar is nothing', 'C4/4 D E F | G/1 |', 3, ['longer'], 'C4/4 D4/4 E4/4 F4/4 | G4/1 |'],
    ['in a group of three its length stays', '3:2[ C4/4 D E ] F/2 |', 0, ['longer'], '3:2[ C4/4 D4/4 E4/4 ] F4/2 |'],
    ['tied, and untied', 'C4/4 C D/2 |', 0, ['tie'], 'C4/4~ C4/4 D4/2 |'],
    ['tied twice is not tied', 'C4/4 C D/2 |', 0, ['tie', 'tie'], 'C4/4 C4/4 D4/2 |'],
    ['tied to another spelling, which takes its own', 'F#4/4 Gb D/2 |', 0, ['tie'], 'F#4/4~ F#4/4 D4/2 |'],
    ['tied to nothing is nothing', 'C4/4 E D/2 |', 0, ['tie'], 'C4/4 E4/4 D4/2 |'],
    ['accented', 'C4/4 E D/2 |', 1, ['accent'], 'C4/4 E4/4> D4/2 |'],
    ['short and then held', 'C4/4 E D/2 |', 1, ['staccato', 'tenuto'], 'C4/4 E4/4_ D4/2 |'],
    ['by its other name', 'F#4/4 C E D |', 0, ['respell'], 'Gb4/4 C4/4 E4/4 D4/4 |'],
    ['by its names in turn, over the octave', 'C4/4 E E D |', 0, ['respell'], 'B#3/4 E4/4 E4/4 D4/4 |'],
    ['turned into a rest, and what was tied to it is cut', 'C4/4~ C D/2 |', 1, ['rest'], 'C4/4 r/4 D4/2 |'],
    ['a chord as a whole', 'C4+E4/4 D E F |', 0, ['shorter'], 'C4+E4/8. r/16 D4/4 E4/4 F4/4 |'],
  ])('is %s', (_, notes, place, edits, expected) => {
    expect(edited(notes, place, ...edits)).toBe(expected);
  });

  it('stays where it is the only one', () => {
    expect(edited('C4/1 |', 0, 'rest')).toBe('C4/1 |');
  });

  it('keeps its marks, those of a rest go', () => {
    const passage = typed('C4@1/4 D@2 E@3 F@4 |');
    const after = withNoteEdited(passage, passage.notes[1]?.id ?? '', 'rest');
    expect(Object.values(after.variants[0]?.marks ?? {}).map(({ finger }) => finger)).toEqual(['1', '3', '4']);
  });

  it('whatever is done in whatever order, it is a sound passage of as many bars', () => {
    const edits: NoteEdit[] = ['longer', 'shorter', 'tie', 'accent', 'staccato', 'tenuto', 'respell', 'rest'];
    const start = typed(
      'C4/8( D E) F#~ F# G4/4 {A4} B/8~ | B/4 C5+E5/4 3:2[ D/8 E F ] G/4 | G4/1 |\nvoice 2: C3/2 D~ | D/1 | E/1 |',
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(20), fc.constantFrom(...edits)), { maxLength: 25 }), (steps) => {
        let passage = start;
        for (const [place, edit] of steps) {
          const note = passage.notes[place % passage.notes.length];
          if (note) passage = withNoteEdited(passage, note.id, edit);
        }
        expect(PassageSchema.safeParse(passage).error).toBeUndefined();
        expect(passage.bars).toBe(3);
        // It is read back from its own text with the same onsets.
        const again = passageOfScore(readText(writeText(passage)), 'again').passage;
        expect(again.bars).toBe(3);
      }),
      { numRuns: 200 },
    );
  });
});

describe('bars', () => {
  const passage = typed('C4@1/4 D E F | meter=3/4 G/4 A B | C5/2. | meter=4/4 D/1 |');

  it('are taken out, and what follows moves up with its meter', () => {
    expect(music(withoutBars(passage, 0, 0))).toBe('G4/4 A4/4 B4/4 | C5/2. | meter=4/4 D5/1 |');
    expect(music(withoutBars(passage, 1, 1))).toBe('C4@1/4 D4/4 E4/4 F4/4 | meter=3/4 C5/2. | meter=4/4 D5/1 |');
    expect(music(withoutBars(passage, 3, 3))).toBe('C4@1/4 D4/4 E4/4 F4/4 | meter=3/4 G4/4 A4/4 B4/4 | C5/2. |');
  });

  it('are put in elsewhere with their marks and their meter', () => {
    const copied = copiedBars(passage, 0, 0);
    expect(music(withBars(passage, 2, copied) as Passage)).toBe(
      'C4@1/4 D4/4 E4/4 F4/4 | meter=3/4 G4/4 A4/4 B4/4 | meter=4/4 C4@1/4 D4/4 E4/4 F4/4 | meter=3/4 C5/2. | meter=4/4 D5/1 |',
    );
    expect(music(withBars(passage, 4, copied) as Passage)).toMatch(/D5\/1 \| C4@1\/4 D4\/4 E4\/4 F4\/4 \|$/);
    const compound = typed('C4/4. D | E/2. |', 'meter: 6/8');
    expect(withBars(compound, 0, copied)).toBeNull();
  });

  it('carry the sections along', () => {
    const sections = [
      { id: 'a', name: 'A', fromBar: 1, toBar: 2 },
      { id: 'b', name: 'B', fromBar: 2, toBar: 2 },
      { id: 'c', name: 'C', fromBar: 3, toBar: 4 },
    ];
    const of = ({ sections: own }: Passage) => own.map(({ id, fromBar, toBar }) => `${id}${fromBar}-${toBar}`).join(' ');
    const whole = { ...passage, sections };
    expect(of(withoutBars(whole, 1, 1))).toBe('a1-1 c2-3');
    expect(of(withoutBars(whole, 0, 0))).toBe('a1-1 b1-1 c2-3');
    expect(of(withBars(whole, 1, copiedBars(whole, 0, 0)) as Passage)).toBe('a1-3 b3-3 c4-5');
    expect(of(withBars(whole, 4, copiedBars(whole, 0, 0)) as Passage)).toBe('a1-2 b2-2 c3-4');
  });

  it('put back where they were taken out give the same music', () => {
    for (const bar of [0, 1, 2, 3])
      expect(music(withBars(withoutBars(passage, bar, bar), bar, copiedBars(passage, bar, bar)) as Passage)).toBe(
        music(passage),
      );
  });

  it('are copied, taken out and put in several at once, with what leads from one to the next', () => {
    const long = typed('C4@1/4( D E F | G/2) A/2~ | A/2 B | C5/1 |');
    const copied = copiedBars(long, 0, 2);
    expect(music(withBars(long, 4, copied) as Passage)).toBe(
      `${music(long)} C4@1/4( D4/4 E4/4 F4/4 | G4/2) A4/2~ | A4/2 B4/2 |`,
    );
    expect(music(withoutBars(long, 1, 2))).toBe('C4@1/4 D4/4 E4/4 F4/4 | C5/1 |');
    for (const [first, last] of [
      [0, 1],
      [1, 2],
      [0, 2],
      [2, 3],
    ] as const)
      expect(music(withBars(withoutBars(passage, first, last), first, copiedBars(passage, first, last)) as Passage)).toBe(
        music(passage),
      );
    const sections = [{ id: 'a', name: 'A', fromBar: 2, toBar: 4 }];
    expect(withoutBars({ ...long, sections }, 0, 1).sections).toMatchObject([{ fromBar: 1, toBar: 2 }]);
    expect(withBars({ ...long, sections }, 0, copied)?.sections).toMatchObject([{ fromBar: 5, toBar: 7 }]);
    // All of them stay where no note would be left.
    expect(withoutBars(long, 0, 3)).toBe(long);
  });

  it('of silence have the meter of their place', () => {
    expect(music(withSilentBar(passage, 1))).toBe(
      'C4@1/4 D4/4 E4/4 F4/4 | meter=3/4 r/2. | G4/4 A4/4 B4/4 | C5/2. | meter=4/4 D5/1 |',
    );
  });

  it('leave a pickup and a tie that no longer leads anywhere', () => {
    const upbeat = typed('G4/4 | C5/2 D~ | D/1 | E/1 |');
    expect(upbeat.pickup).toBe('1');
    expect(music(withoutBars(upbeat, 1, 1))).toBe('G4/4 | C5/2 D5/2 | E5/1 |');
    expect(music(withoutBars(typed('C4/1 |'), 0, 0))).toBe('C4/1 |');
  });
});
