import { describe, expect, it } from 'vitest';
import { align, UNKNOWN_OFFSET } from '../align/align';
import { firstDrill } from '../plan/practice-config';
import { beats, beatsNumber, writeBeats } from '../schema/beats';
import { barStarts, meterBeats } from '../schema/frame';
import { DrillSchema } from '../schema/grid';
import { type Passage, type PassageNote, PassageSchema } from '../schema/passage';
import { TempoSchema } from '../schema/tempo';
import { expectedNotes } from '../time/repetition-plan';
import { constantTempo } from '../time/tempo-map';
import { BUILT_IN_PASSAGES, builtInPassage } from './built-in-passages';
import { gridOf } from './grid-of';
import { handsOf, notesPerBeat, pitchesOf, sameGrid } from './grid-shape';
import { drillsOf } from './methods/methods';
import { noteValueName } from './note-values';
import { midiOf, pitch } from './pitch';

const five = builtInPassage('five-steps') as Passage;

/** Where the last bar ends. */
const endOf = (frame: Parameters<typeof barStarts>[0]) => barStarts(frame).at(-1) ?? 0;

describe('exact beats', () => {
  it('add up without rounding', () => {
    const third = beats('1/3');
    expect(writeBeats(third.add(third).add(third))).toBe('1');
    expect(writeBeats(beats('-1/2').add('3/4'))).toBe('1/4');
    expect(beatsNumber('7/8')).toBe(0.875);
  });
});

describe('bars', () => {
  it('are counted in the beat unit', () => {
    expect(writeBeats(meterBeats({ count: 6, unit: 8 }, '3/8'))).toBe('2');
    expect(writeBeats(meterBeats({ count: 4, unit: 4 }, '1/4'))).toBe('4');
  });
});

describe('a pitch', () => {
  it('is read and numbered as it is spelled: middle C is C4 and 60', () => {
    expect(midiOf(pitch('C4'))).toBe(60);
    expect(midiOf(pitch('A4'))).toBe(69);
    expect(midiOf(pitch('B#3'))).toBe(60);
    expect(midiOf(pitch('Cb4'))).toBe(59);
    expect(() => pitch('H4')).toThrow();
  });
});

describe.each(BUILT_IN_PASSAGES.map((passage) => [passage.title, passage] as const))('%s', (_title, passage) => {
  it('is a valid passage, and a valid drill', () => {
    expect(PassageSchema.parse(passage)).toEqual(passage);
    expect(DrillSchema.safeParse(firstDrill(passage)).error).toBeUndefined();
  });

  it('fits into its bars and ends on a note of a beat or more', () => {
    const { grid } = firstDrill(passage);
    const last = grid.events.at(-1);
    const end = beats(last?.at ?? '0').add(beats(last?.length ?? '0'));
    expect(end.compare(endOf(passage))).toBeLessThanOrEqual(0);
    expect(beatsNumber(last?.length ?? '0')).toBeGreaterThanOrEqual(1);
    expect(grid.events[0]?.at).toBe(writeBeats(beats(passage.pickup).neg()));
  });
});

it('knows how close the notes of each ready passage are', () => {
  expect(BUILT_IN_PASSAGES.map((passage) => notesPerBeat(gridOf(passage)))).toEqual([4, 3, 4, 2, 2]);
});

const note = (id: string, at: string, length: string, name: string, rest: Partial<PassageNote> = {}): PassageNote => ({
  id,
  at,
  length,
  pitch: pitch(name),
  staff: 1,
  voice: 1,
  ...rest,
});
const withNotes = (notes: PassageNote[], rest: Partial<Passage> = {}): Passage => ({ ...five, variants: [], notes, ...rest });
const shape = (passage: Passage) => {
  const grid = gridOf(passage);
  return grid.events.map((event) => [event.at, event.length, pitchesOf(event, grid).join('+')]);
};

describe('a grid', () => {
  it('puts notes of several voices and staves that begin together into one event, lowest first', () => {
    const passage = withNotes(
      [
        note('a', '0', '2', 'C5'),
        note('b', '0', '1', 'E4', { voice: 2 }),
        note('c', '1', '1', 'G4', { voice: 2 }),
        note('d', '0', '1', 'C3', { staff: 2 }),
      ],
      { staves: [{ clef: 'treble' }, { clef: 'bass' }] },
    );
    expect(shape(passage)).toEqual([
      ['0', '1', '48+64+72'],
      ['1', '1', '67'],
    ]);
    expect(gridOf(passage).events[0]?.notes.map((one) => one.from)).toEqual(['d', 'b', 'a']);
  });

  it('of two voices is paired and measured like any other', () => {
    const grid = gridOf(
      withNotes([note('a', '0', '1', 'C4'), note('b', '0', '1', 'C4', { voice: 2 }), note('c', '1', '1', 'D4')]),
    );
    const notes = expectedNotes(grid, constantTempo(60), 1);
    expect(notes.map((one) => one.intervalS)).toEqual([1, 1]);
    expect(align(notes, [1.01, 2.01], UNKNOWN_OFFSET).onsetOf).toEqual([0, 1]);
  });

  it('holds tied notes as one, over bar lines and in chains', () => {
    const tied = withNotes([
      note('a', '3', '1', 'C4', { tie: true }),
      note('b', '4', '2', 'C4', { tie: true }),
      note('c', '6', '1', 'C4'),
      note('d', '7', '1', 'C4'),
    ]);
    expect(shape(tied)).toEqual([
      ['3', '4', '60'],
      ['7', '1', '60'],
    ]);
  });

  it('leaves grace notes out', () => {
    expect(shape(withNotes([note('g', '0', '0', 'D4', { grace: true }), note('a', '0', '1', 'C4')]))).toEqual([
      ['0', '1', '60'],
    ]);
  });

  it('of a section counts from its own first downbeat and cuts what reaches over its end', () => {
    const passage = withNotes(
      [note('a', '0', '4', 'C4'), note('b', '4', '2', 'D4'), note('c', '6', '4', 'E4'), note('d', '10', '2', 'F4')],
      {
        bars: 3,
        meters: [{ at: '0', count: 4, unit: 4 }],
      },
    );
    const grid = gridOf(passage, null, { id: 's', name: 'middle', fromBar: 2, toBar: 2 });
    expect(grid.bars).toBe(1);
    expect(grid.events.map((event) => [event.at, event.length, event.notes[0]?.from])).toEqual([
      ['0', '2', 'b'],
      ['2', '2', 'c'],
    ]);
  });

  it('carries the marks of its variant', () => {
    const passage = builtInPassage('hands-together') as Passage;
    const { events } = gridOf(passage, passage.variants[0]);
    expect(events.every((event) => handsOf(event)?.join() === 'left,right')).toBe(true);
    expect(sameGrid(gridOf(passage), gridOf(structuredClone(passage)))).toBe(true);
    expect(sameGrid(gridOf(passage), gridOf(five))).toBe(false);
  });
});

describe('a passage that could not be played', () => {
  const one = note('a', '0', '1', 'C4');
  it.each([
    ['a beat of nothing', { beatUnit: '0' }, 'greater than nothing'],
    ['a negative beat', { beatUnit: '-1/4' }, 'greater than nothing'],
    ['a note of no length', { notes: [{ ...one, length: '0' }] }, 'has no length'],
    ['a note of negative length', { notes: [{ ...one, length: '-1' }] }, 'has no length'],
    ['a note past the end', { notes: [{ ...one, at: '8' }] }, 'reaches past the last bar'],
    ['a note before the pickup', { notes: [{ ...one, at: '-1' }] }, 'begins before the pickup'],
    ['two notes of one id', { notes: [one, { ...one, at: '1' }] }, 'used twice'],
    ['a staff that is not there', { notes: [{ ...one, staff: 2 }] }, 'staff that is not there'],
    ['a tie to nowhere', { notes: [{ ...one, tie: true }] }, 'is tied'],
    ['nothing but grace notes', { notes: [{ ...one, length: '0', grace: true }] }, 'no note to be timed'],
    [
      'a time signature within a bar',
      {
        meters: [
          { at: '0', count: 4, unit: 4 },
          { at: '1', count: 3, unit: 4 },
        ],
      },
      'bar line',
    ],
    [
      'a section beyond the end',
      { notes: [one], sections: [{ id: 's', name: 'S', fromBar: 1, toBar: 9 }] },
      'does not lie within',
    ],
    ['marks of a lost note', { notes: [one], variants: [{ id: 'v', name: 'V', marks: { z: {} } }] }, 'not there'],
    ['a division by zero', { notes: [{ ...one, length: '1/0' }] }, 'fraction'],
  ])('for %s is refused with a sentence', (_what, part, sentence) => {
    const checked = PassageSchema.safeParse({ ...five, variants: [], ...part });
    expect(checked.success).toBe(false);
    expect(checked.error?.issues.map((issue) => issue.message).join(' ')).toContain(sentence);
  });
});

describe('repeating each note', () => {
  it('divides every note but the last in its own time', () => {
    const [drill] = drillsOf(gridOf(five), 'repeat-each', { times: 3 });
    expect(drill?.grid.events.slice(0, 4).map((event) => [event.at, event.length])).toEqual([
      ['0', '1/12'],
      ['1/12', '1/12'],
      ['1/6', '1/12'],
      ['1/4', '1/12'],
    ]);
    expect(drill?.grid.events).toHaveLength(16 * 3 + 1);
    expect(drill?.grid.events.at(-1)).toMatchObject({ at: '4', length: '2' });
  });
});

describe('note values', () => {
  it('have British and American names', () => {
    expect(noteValueName('1/16', 'british')).toBe('semiquaver');
    expect(noteValueName('1/16', 'american')).toBe('sixteenth');
    expect(noteValueName('3/8', 'british')).toBe('dotted crotchet');
    expect(noteValueName('1/12', 'american')).toBe('triplet eighth');
    expect(noteValueName('5/7', 'american')).toBe('5/7');
  });
});

describe('a tempo', () => {
  it.each([0, 10_000, -5, Number.NaN, Number.POSITIVE_INFINITY])('of %f is refused with a sentence', (bpm) => {
    const checked = TempoSchema.safeParse(bpm);
    expect(checked.success).toBe(false);
    expect(checked.error?.issues[0]?.message).toMatch(/tempo/i);
  });
});
