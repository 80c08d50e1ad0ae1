import { BUILT_IN_PASSAGES, builtInPassage, CLEFS, majorKey, pitch, stepsUp } from '@isochron/core/material';
import { firstDrill, passageGrid } from '@isochron/core/planning';
import { beats, type Clef, type Grid, type GridEvent, type Passage } from '@isochron/core/schema';
import { passageOfScore, readText } from '@isochron/core/score';
import { describe, expect, it } from 'vitest';
import { stripSystems } from '../strip/strip-layout';
import { keyChangeSigns } from './key-change';
import { notationWords } from './notation-words';
import { notationScore, pitchKey, tupletGroups } from './score';
import { clefAt, hasClefChange } from './staff-clefs';
import { notationHeight, staffTops } from './staff-places';
import { LETTERS, markedStaves, stepsBeyond } from './staff-reach';

const gridOf = (id: string): Grid => firstDrill(builtInPassage(id) as Passage).grid;
const symbols = (id: string, staff = 1) => notationScore(gridOf(id), staff)[0] ?? [];

describe('the notation', () => {
  it('writes sixteenths, triplets, dotted and plain notes for what they are', () => {
    expect(symbols('five-steps')[0]).toMatchObject({ value: 16, dots: 0 });
    expect(symbols('five-steps')[16]).toMatchObject({ value: 2, dots: 0 });
    expect(symbols('rolling-threes')[0]).toMatchObject({ value: 8, tuplet: { actual: 3, normal: 2 } });
    expect(symbols('long-short-walk')[0]).toMatchObject({ value: 8, dots: 1 });
    expect(symbols('long-short-walk')[1]).toMatchObject({ value: 16, dots: 0 });
  });

  it('writes no dotted rests where the beat is not of three, and the longer of two where it divides the bar', () => {
    const rests = (text: string) => {
      const { grid } = firstDrill(passageOfScore(readText(text), 'rests').passage);
      return notationScore(grid, 1)
        .flat()
        .flatMap(({ isRest, value, dots }) => (isRest ? [`${value}${'.'.repeat(dots)}`] : []))
        .join(' ');
    };
    // As Gould has rests in simple and compound time (from memory).
    expect(rests('meter: 4/4\nC4/4 r/4 r/2 | C4/1 |')).toBe('4 2');
    expect(rests('meter: 4/4\nr/2 r/4 C4/4 | C4/1 |')).toBe('2 4');
    expect(rests('meter: 2/4\nC4/8 r/8 r/4 | C4/2 |')).toBe('8 4');
    expect(rests('meter: 6/8\nC4/4. r/4. | C4/2. |')).toBe('4.');
  });

  it('writes a bar of silence as a whole rest in any meter, and only where it fills the bar', () => {
    const rests = (text: string) => {
      const { grid } = firstDrill(passageOfScore(readText(text), 'silent').passage);
      return notationScore(grid, 1)
        .flat()
        .flatMap(({ isRest, value, isWholeBar }) => (isRest ? [`${value}${isWholeBar ? ' whole' : ''}`] : []));
    };
    // As Gould has it (from memory): but for bars of four minims and more.
    const bars = { '3/4': 6, '2/4': 4, '6/8': 6, '5/8': 5, '4/4': 8 };
    for (const [meter, eighths] of Object.entries(bars)) {
      const of = (note: string) => `${note}/8 `.repeat(eighths);
      expect(rests(`meter: ${meter}\n${of('C4')}| ${of('r')}| ${of('C4')}|`)).toEqual(['1 whole']);
    }
    expect(rests('meter: 3/4\nC4/4 r/2 | C4/2. |')).not.toContain('1 whole');
  });

  it('gives the stems of two voices their room above and below', () => {
    const { grid } = firstDrill(
      passageOfScore(readText('staff 1: A5/4 B5 C6 B5 |\nstaff 1 voice 2: C5/1 |'), 'voices').passage,
    );
    const alone = firstDrill(passageOfScore(readText('A5/4 B5 C6 B5 |'), 'voice').passage).grid;
    expect(stepsBeyond(grid, 1).above - stepsBeyond(alone, 1).above).toBe(7);
  });

  it('knows how far the lowest note reaches below its staff, by its clef', () => {
    const grid = (clef: Clef, ...names: string[]) =>
      ({
        staves: [{ clef }],
        events: names.map((name) => ({ notes: [{ staff: 1, pitch: pitch(name) }] })),
      }) as unknown as Grid;
    expect(stepsBeyond(grid('treble', 'E4', 'C5'), 1).below).toBe(0);
    expect(stepsBeyond(grid('treble', 'C4', 'C2'), 1).below).toBe(16);
    expect(stepsBeyond(grid('bass', 'E2'), 1).below).toBe(2);
    expect(stepsBeyond(grid('alto', 'C3'), 1).below).toBe(3);
    expect(stepsBeyond(grid('tenor', 'C3'), 1).below).toBe(1);
    expect(stepsBeyond(grid('percussion', 'C1'), 1).below).toBe(0);
  });

  it('knows how far the highest reaches above, staff by staff, and makes room for what reaches beyond', () => {
    const grid = (upper: string, lower: string) =>
      ({
        staves: [{ clef: 'treble' }, { clef: 'bass' }],
        events: [
          {
            notes: [
              { staff: 1, pitch: pitch(upper), marks: {} },
              { staff: 2, pitch: pitch(lower), marks: { finger: '1' } },
            ],
          },
        ],
      }) as unknown as Grid;
    expect(stepsBeyond(grid('A5', 'C4'), 1)).toEqual({ above: 2, below: 0 });
    expect(stepsBeyond(grid('A5', 'C4'), 2)).toEqual({ above: 2, below: 0 });
    const plain = staffTops(grid('F5', 'C3'));
    const high = staffTops(grid('C8', 'C3'));
    // Each step is half the room between two lines of five pixels each; both staves move down alike.
    expect((high[0] ?? 0) - (plain[0] ?? 0)).toBeGreaterThan(40);
    expect((high[1] ?? 0) - (high[0] ?? 0)).toBe((plain[1] ?? 0) - (plain[0] ?? 0));
    const near = staffTops(grid('C4', 'G5'));
    expect((near[1] ?? 0) - (near[0] ?? 0)).toBeGreaterThan((plain[1] ?? 0) - (plain[0] ?? 0));
    expect(markedStaves(grid('C4', 'C3'))).toEqual([2]);
  });

  it('keeps the spelling: F sharp is not G flat; keys by their signature', () => {
    expect(['C4', 'F#4', 'Gb4', 'A4', 'C2', 'B##3'].map((name) => pitchKey(pitch(name)))).toEqual([
      'c/4',
      'f#/4',
      'gb/4',
      'a/4',
      'c/2',
      'b##/3',
    ]);
    expect([-3, 0, 2].map(majorKey)).toEqual(['Eb', 'C', 'D']);
  });

  it('shows fingers and sticks where the passage has them', () => {
    expect(symbols('five-steps')[4]?.mark).toBe('5');
    const hands = symbols('rolling-threes').map((symbol) => symbol.mark);
    expect(hands.slice(0, 4)).toEqual(['R', 'L', 'R', 'L']);
    expect(symbols('long-short-walk')[0]?.mark).toBe('');
  });

  it('gives notes of a chord that are held over others a line of their own, without rests, and the marks to those that move', () => {
    const { passage } = passageOfScore(readText('meter: 4/4\nC4@1/1 |'), 'held');
    const [first] = passage.notes;
    const note = (id: string, at: string, length: string, name: string) => ({ ...first, id, at, length, pitch: pitch(name) });
    const linesOf = (...notes: ReturnType<typeof note>[]) => {
      const held = { ...passage, variants: [{ id: 'first', name: 'f', marks: { a: { finger: '1' } } }], notes } as Passage;
      return notationScore(passageGrid(held)).map((line) =>
        line
          .map(
            ({ value, isRest, pitches, mark }) => `${isRest ? 'r' : pitches.map((one) => one?.step).join('+')}/${value}${mark}`,
          )
          .join(' '),
      );
    };
    const moving = [note('b', '0', '1', 'E4'), note('c', '1', '1', 'F4'), note('d', '2', '2', 'G4')];
    expect(linesOf(note('a', '0', '2', 'C4'), ...moving)).toEqual(['E/41 F/4 G/2', 'C/2']);
    // Held above the moving ones, its line is the upper one.
    expect(linesOf(note('a', '0', '2', 'C5'), ...moving)).toEqual(['C/2', 'E/41 F/4 G/2']);
    // As long as the others, or hardly longer, it is one chord with them.
    expect(linesOf(note('a', '0', '1', 'C4'), ...moving)).toEqual(['C+E/41 F/4 G/2']);
    expect(linesOf(note('a', '0', '5/4', 'C4'), ...moving)).toHaveLength(1);
  });

  it('puts each hand on its staff', () => {
    // The staves tell the hands: no letters are needed.
    expect(symbols('hands-together', 1)[0]).toMatchObject({ pitches: [pitch('C4')], mark: '' });
    expect(symbols('hands-together', 2)[0]).toMatchObject({ pitches: [pitch('C3')], mark: '' });
  });

  it('fills a gap with a rest', () => {
    const grid = gridOf('five-steps');
    const [first, , third] = grid.events;
    const [score] = notationScore({ ...grid, events: [first, third] as GridEvent[] });
    expect(score?.slice(0, 3).map(({ isRest, value, at }) => ({ isRest, value, at: at.valueOf() }))).toEqual([
      { isRest: false, value: 16, at: 0 },
      { isRest: true, value: 16, at: 0.25 },
      { isRest: false, value: 16, at: 0.5 },
    ]);
  });

  it.each(BUILT_IN_PASSAGES.map((one) => [one.title, one] as const))(
    'has a symbol over every column of %s',
    (_title, passage) => {
      const { grid } = firstDrill(passage);
      const first = notationScore(grid)
        .flat()
        .filter((symbol) => symbol.event !== null);
      expect(new Set(first.map((symbol) => symbol.event)).size).toBe(grid.events.length);
    },
  );

  const typed = (text: string): Grid => {
    const { passage } = passageOfScore(readText(text), 'typed');
    return passageGrid(passage);
  };
  const written = (text: string, voice = 0) =>
    (notationScore(typed(text))[voice] ?? []).map(
      ({ isRest, value, dots, tied, tuplet }) =>
        `${isRest ? 'r' : ''}${value}${'.'.repeat(dots)}${tied ? '~' : ''}${tuplet ? `(${tuplet.actual})` : ''}`,
    );

  it('ties what crosses a bar line, and shows the beat within a bar', () => {
    expect(written('meter: 2/4\nC4/4. D4/8~ | D4/2 |')).toEqual(['4.', '8~', '2']);
    expect(written('meter: 4/4\nC4/8 D4/2. E4/8 |')).toEqual(['8', '8~', '2~', '8', '8']);
    // A plain syncopation of a beat's length stays one symbol.
    expect(written('meter: 2/4\nC4/8 D4/4 E4/8 |')).toEqual(['8', '4', '8']);
  });

  it('writes any tuplet, and groups it', () => {
    expect(written('meter: 2/4\n5:4[ C4/16 D E F G ] 3:2[ A4/8 r G ] |')).toEqual([
      '16(5)',
      '16(5)',
      '16(5)',
      '16(5)',
      '16(5)',
      '8(3)',
      'r8(3)',
      '8(3)',
    ]);
    const [line] = notationScore(typed('meter: 2/4\n5:4[ C4/16 D E F G ] 3:2[ A4/8 r G ] |'));
    expect(tupletGroups(line ?? []).map(({ from, to, actual }) => [from, to, actual])).toEqual([
      [0, 5, 5],
      [5, 8, 3],
    ]);
  });

  it('keeps two voices of a staff apart, and the rests of the second to where it plays', () => {
    const text = 'meter: 2/4\nstaff 1 voice 1: C5/4 D | E F |\nstaff 1 voice 2: r/4 A4/4 | r/2 |';
    expect(written(text)).toEqual(['4', '4', '4', '4']);
    expect(written(text, 1)).toEqual(['r4', '4']);
  });

  it('fills a bar that is not played out', () => {
    expect(written('meter: 4/4\nC4/4 D/8 r/8 r/2 |')).toEqual(['4', '8', 'r8', 'r2']);
  });

  it('says the notes for those who cannot see them', () => {
    expect(notationWords(typed('meter: 2/4\nF#4/4 Bb4+D5 |'), 0, 2)).toBe('notes 1 to 2: F sharp 4, B flat 4 and D 5');
  });
});

describe('a change of key within a line', () => {
  it('shows the signs of the new key, and naturals where it has none', () => {
    expect(keyChangeSigns('treble', 2, 0).map(({ line }) => line)).toEqual([0, 1.5]);
    expect(keyChangeSigns('bass', -1, 3).map(({ line }) => line)).toEqual([3]);
    expect(keyChangeSigns('alto', 0, -2)).toEqual([
      { glyph: '\uE261', line: 2.5 },
      { glyph: '\uE261', line: 1 },
    ]);
    expect(keyChangeSigns('tenor', 1, 0).map(({ line }) => line)).toEqual([3]);
    // In every clef each sign stands on a line or space of its note, on the staff or right above it.
    for (const clef of Object.keys(CLEFS) as Clef[])
      for (const [fifths, order] of [
        [7, 'FCGDAEB'],
        [-7, 'BEADGCF'],
      ] as const)
        for (const [k, { line }] of keyChangeSigns(clef, fifths, 0).entries()) {
          const step = stepsUp(CLEFS[clef].lowest) + 2 * (4 - line);
          expect(`${clef} ${LETTERS[step % 7]}`).toBe(`${clef} ${order[k]}`);
          expect(line).toBeGreaterThanOrEqual(-0.5);
          expect(line).toBeLessThanOrEqual(4.5);
        }
  });
});

describe('a drum part', () => {
  it('is said by the names of its parts', () => {
    const { grid } = firstDrill(passageOfScore(readText('meter: 2/4\nclef: percussion\nC2/4 F#2+D2 |'), 'beat').passage);
    expect(notationWords(grid, 0, 2)).toBe('notes 1 to 2: bass drum, snare drum and closed hi-hat');
  });
});

describe('what a note has beside it on the page', () => {
  const grid = (text: string) => firstDrill(passageOfScore(readText(`meter: 4/4\n${text}\n`), 'printed').passage).grid;
  const printed = grid('"Dm7" "_sea" D4@trill/4 E F~ F | clef=bass "G7" G2/2 clef=treble D4/4 E |');

  it('stands with the first of its tied symbols', () => {
    expect(notationScore(printed)[0]?.map((symbol) => symbol.printed)).toEqual([
      { chord: 'Dm7', syllable: 'sea', ornament: 'trill' },
      {},
      {},
      { clef: 'bass', chord: 'G7' },
      {},
      {},
    ]);
  });

  it('has the clef that holds at every place, and where it changes', () => {
    const at = [0, 3.9, 4, 5, 6, 7].map((beat) => clefAt(printed, 1, beats(beat)));
    expect(at).toEqual(['treble', 'treble', 'bass', 'bass', 'treble', 'treble']);
    expect([4, 5, 6].map((beat) => hasClefChange(printed, beats(beat)))).toEqual([true, false, true]);
    expect(hasClefChange(grid('C4/4 D E F |'), beats(0))).toBe(false);
  });

  it('pushes the staff down for chord symbols and for signs over high notes, and is as tall as its syllables need', () => {
    const plain = grid('G5/4 C4 C4 C4 |');
    expect(staffTops(grid('"C" G5/4 C4 C4 C4 |'))[0]).toBeGreaterThan(staffTops(plain)[0] as number);
    expect(staffTops(grid('C6@trill@fermata/4 C4 C4 C4 |'))[0]).toBeGreaterThan(
      staffTops(grid('C6/4 C4 C4 C4 |'))[0] as number,
    );
    expect(notationHeight(grid('"_la" G5/4 C4 C4 C4 |'))).toBeGreaterThan(notationHeight(plain));
    // A note low in the bass is not far under the treble staff.
    expect(stepsBeyond(grid('clef=bass G2/4 A2 B2 C3 |'), 1)).toEqual({ above: 0, below: 0 });
  });

  it('lets no two words lie on one another', () => {
    const lines = (word: string) => stripSystems(grid(`${`"_${word}" C4/8 `.repeat(8)}| `.repeat(6)), 1200).length;
    expect(lines('so-')).toBeLessThan(lines('through-'));
  });
});
