import { describe, expect, it } from 'vitest';
import { passageOfScore } from '../formats/score/score-passage';
import { readText } from '../formats/score/text-read';
import { BUILT_IN_PASSAGES } from '../rhythm/built-in-passages';
import { gridOf } from '../rhythm/grid-of';
import { combinedDrills } from '../rhythm/methods/methods';
import { midiOf } from '../rhythm/pitch';
import { drillsForSpot } from '../rhythm/spot-drills';
import { InstrumentSchema } from '../schema/instrument';
import { PassageSchema } from '../schema/passage';
import { dangerSpots } from './danger-spots';
import { BUILT_IN_INSTRUMENTS, instrumentOf } from './instruments';
import { makePattern, PATTERNS } from './patterns/patterns';
import { foundSections } from './sections';

const typed = (text: string) => passageOfScore(readText(text), 'typed').passage;
const gridOfText = (text: string) => {
  const passage = typed(text);
  return gridOf(passage, passage.variants[0] ?? null);
};

describe('instruments', () => {
  it.each(BUILT_IN_INSTRUMENTS.map((one) => [one.name, one] as const))(
    '%s is whole, and its strings lie in its range',
    (_name, one) => {
      expect(InstrumentSchema.safeParse(one).error).toBeUndefined();
      expect(midiOf(one.lowest)).toBeLessThan(midiOf(one.highest));
      for (const { pitch } of one.strings) expect(midiOf(pitch)).toBeGreaterThanOrEqual(midiOf(one.lowest));
    },
  );

  // Common practice, from memory.
  it.each([
    ['clarinet', 58],
    ['alto-saxophone', 51],
    ['horn', 53],
    ['double-bass', 48],
    ['piccolo', 72],
    ['viola', 60],
  ])('a written middle C of a %s sounds at MIDI %i', (id, sounding) => {
    expect(60 + instrumentOf(id).transposition).toBe(sounding);
  });
});

describe.each(PATTERNS.map((pattern) => [pattern.id, pattern] as const))('the pattern %s', (id, pattern) => {
  it('is a sound passage in the range of every instrument that it suits, with every choice', () => {
    const suited = ['any', 'violin', 'bass-clarinet', 'snare-drum', 'guitar', 'tuba', 'banjo']
      .map((name) => instrumentOf(name))
      .filter((one) => pattern.suits(one));
    expect(suited.length).toBeGreaterThan(0);
    for (const instrument of suited) {
      const defaults = pattern.parameters.parse({}) as Record<string, unknown>;
      for (const field of pattern.fields(instrument))
        for (const { value } of field.choices) {
          const passage = makePattern(id, { ...defaults, [field.key]: value }, instrument);
          expect(PassageSchema.safeParse(passage).error).toBeUndefined();
          for (const { pitch } of passage.notes) {
            if (!pitch || instrument.clefs[0] === 'percussion') continue;
            expect(midiOf(pitch)).toBeGreaterThanOrEqual(midiOf(instrument.lowest));
            if (id !== 'five-fingers' || field.key !== 'times')
              expect(midiOf(pitch)).toBeLessThanOrEqual(midiOf(instrument.highest) + 2);
          }
          expect(passage.generator).toMatchObject({ id });
        }
    }
  });
});

describe('generated patterns', () => {
  const piano = instrumentOf('piano');
  const names = (passage: ReturnType<typeof makePattern>) =>
    passage.notes.map(({ pitch }) => pitch && `${pitch.step}${['bb', 'b', '', '#', '##'][pitch.alter + 2]}`);

  it('spell their scales as the key has them', () => {
    expect(names(makePattern('scale', { tonic: 'Eb' }, piano)).slice(0, 8)).toEqual([
      'Eb',
      'F',
      'G',
      'Ab',
      'Bb',
      'C',
      'D',
      'Eb',
    ]);
    const minor = makePattern('scale', { tonic: 'F#', scale: 'harmonic-minor' }, piano);
    expect(names(minor).slice(0, 8)).toEqual(['F#', 'G#', 'A', 'B', 'C#', 'D', 'E#', 'F#']);
    expect(minor.keys[0]?.fifths).toBe(3);
    expect(names(makePattern('scale', { interval: 2 }, piano)).slice(0, 6)).toEqual(['C', 'E', 'D', 'F', 'E', 'G']);
  });

  it('spell their chords in thirds', () => {
    expect(names(makePattern('arpeggio', { tonic: 'C', chord: 'diminished-seventh', octaves: 1 }, piano)).slice(0, 5)).toEqual([
      'C',
      'Eb',
      'Gb',
      'Bbb',
      'C',
    ]);
  });

  it('carry their marks', () => {
    const sticks = makePattern('sticking', { hands: 'RLRR', times: 2, accent: 3 }, instrumentOf('snare-drum'));
    const [variant] = sticks.variants;
    expect(sticks.notes.slice(0, 4).map(({ id }) => variant?.marks[id]?.hand)).toEqual(['right', 'left', 'right', 'right']);
    expect(sticks.notes.map(({ accent }) => accent ?? false).slice(0, 8)).toEqual([
      false,
      false,
      true,
      false,
      false,
      false,
      true,
      false,
    ]);
    const plucked = makePattern('string-crossing', { stroke: 'pim' }, instrumentOf('guitar'));
    expect(plucked.notes.slice(0, 4).map(({ id }) => plucked.variants[0]?.marks[id]?.finger)).toEqual(['p', 'i', 'm', 'p']);
    expect(plucked.transposition).toBe(-12);
  });
});

describe('sections', () => {
  it('are found where bars repeat, exactly or nearly', () => {
    const passage = typed(
      'title: S\nC4/8 D E F G F E D | E/4 G C E | A4/4 r/8 A D5/2 | C4/8 D E F G F E D | E/4 G C E | C4/8 D E F G A E D | E/4 G C F |',
    );
    expect(foundSections(passage)).toEqual([
      { name: 'A', fromBar: 1, toBar: 2 },
      { name: 'B', fromBar: 3, toBar: 3 },
      { name: 'A', fromBar: 4, toBar: 5, repeats: { fromBar: 1, toBar: 2 } },
      { name: 'A′', fromBar: 6, toBar: 7 },
    ]);
  });

  it('are found on another step, and not where nothing repeats', () => {
    expect(foundSections(typed('title: S\nC4/8 E D F E G F A | D4/8 F# E G F# A G B |')).map(({ name }) => name)).toEqual([
      'A',
      'A′',
    ]);
    expect(foundSections(typed('title: S\nC4/8 E D F E G F A | C4/4 B3/8 A C4/2 |'))).toEqual([]);
  });
});

describe('danger spots', () => {
  const codes = (text: string, bpm = 120) => dangerSpots(gridOfText(text), bpm).map(({ index, why }) => `${index} ${why.code}`);

  it.each([
    ['a finger that moves', 'C4@1/16 D@2 E@3 F@3 G@4/4', '3 danger-same-finger'],
    ['a hand that strikes twice', 'x@R/16 x@L x@L x@R x@L/4', '2 danger-same-hand'],
    ['a string left out', 'C4@s4/16 D@s2 E@s2 F@s1 G@s1/4', '1 danger-string-skipped'],
    ['a jump', 'C4/16 D E D5 C5/4', '3 danger-jump'],
    ['an accent on an up-stroke', 'C4@down/16 D@up E@down F@up> G@down/4', '3 danger-accent-up'],
    ['a repeated pitch', 'C4/16 D D E F/4', '2 danger-repeated-pitch'],
    ['a note that was marked', 'C4/16 D E@! F G/4', '2 danger-marked'],
  ])('%s is told', (_what, notes, code) => {
    expect(codes(`title: D\nmeter: 2/4\n${notes} |`)).toContain(code);
  });

  it('are not told where there is time, and not of what every note does', () => {
    expect(codes('title: D\nmeter: 4/4\nC4@1/4 D@1 E@3 C5@3 |', 60)).toEqual([]);
    expect(codes('title: D\nmeter: 2/4\nx/16 x x x x/4 |')).toEqual([]);
    expect(codes('title: D\nmeter: 2/4\nC4@1/16 D@2 E@3 F@4 G@5/4 |')).toEqual([]);
    // The passages that ship are clean of them at half their goal.
    for (const passage of BUILT_IN_PASSAGES)
      expect(dangerSpots(gridOf(passage, passage.variants[0]), passage.goalBpm / 2)).toEqual([]);
  });

  it('each have a drill that can be played', () => {
    const grid = gridOfText('title: D\nmeter: 2/4\nC4@1/16 D@2 E@3 F@3 G@4/4 |');
    for (const { drill } of dangerSpots(grid, 120)) expect(combinedDrills(grid, drill).length).toBeGreaterThan(0);
  });
});

describe('drills for a spot', () => {
  it('are about the notes around it, and lead across it', () => {
    const [grid] = BUILT_IN_PASSAGES.map((passage) => gridOf(passage));
    if (!grid) throw new Error('no passage');
    for (const index of [1, 4, grid.events.length - 1]) {
      const asked = [grid.events[index - 1], grid.events[index]].map((event) => event?.notes[0]?.from);
      for (const { uses } of drillsForSpot(grid.events.length, index)) {
        const drills = combinedDrills(grid, uses);
        expect(drills.length).toBeGreaterThan(0);
        const last = drills.at(-1)?.grid.events.map(({ notes }) => notes[0]?.from) ?? [];
        for (const id of asked) expect(last).toContain(id);
        expect(last.length).toBeLessThan(grid.events.length);
      }
      const accented = combinedDrills(grid, drillsForSpot(grid.events.length, index)[2]?.uses ?? [])[0]?.grid.events.find(
        ({ accent }) => accent,
      );
      expect(accented?.notes[0]?.from).toBe(asked[1]);
    }
  });
});
