import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PASSAGE_FORMATS } from '../../formats/score/passage-files';
import { gridOf } from '../../rhythm/grid-of';
import { midiOf } from '../../rhythm/pitch';
import type { Hand, Pitch } from '../../schema/notation';
import { type Passage, PassageSchema } from '../../schema/passage';
import { BUILT_IN_INSTRUMENTS, instrumentOf } from '../instruments';
import { keyboardFinger } from './keyboard-fingering';
import { TONICS } from './keys';
import { placeField } from './on-strings';
import { makePattern, PATTERNS } from './patterns';
import { SCALE_KINDS, type ScaleId } from './scale-kinds';

const piano = instrumentOf('piano');
const NAMES = ['bb', 'b', '', '#', '##'];
const names = (passage: Passage, staff = 1) =>
  passage.notes
    .filter((note) => note.staff === staff && !note.grace)
    .map(({ pitch }) => (pitch ? `${pitch.step}${NAMES[pitch.alter + 2]}` : 'x'))
    .join(' ');
const heights = (passage: Passage, staff = 1) =>
  passage.notes.filter((note) => note.staff === staff).map(({ pitch }) => (pitch ? midiOf(pitch) : 0));
const marksOf = (passage: Passage) => passage.notes.map(({ id }) => passage.variants[0]?.marks[id] ?? {});

describe('every pattern', () => {
  const anyPattern = fc.constantFrom(...BUILT_IN_INSTRUMENTS).chain((instrument) =>
    fc.constantFrom(...PATTERNS.filter((pattern) => pattern.suits(instrument))).chain((pattern) =>
      fc.record({
        instrument: fc.constant(instrument),
        id: fc.constant(pattern.id),
        parameters: fc.record(
          Object.fromEntries(
            pattern.fields(instrument).map(({ key, choices }) => [key, fc.constantFrom(...choices.map(({ value }) => value))]),
          ),
        ),
      }),
    ),
  );

  it('is, on every instrument and with any choices, a sound passage in its range, in whole bars, that can be written as text', () => {
    const text = PASSAGE_FORMATS.find(({ id }) => id === 'text');
    fc.assert(
      fc.property(anyPattern, ({ instrument, id, parameters }) => {
        const passage = makePattern(id, parameters, instrument);
        expect(PassageSchema.safeParse(passage).error).toBeUndefined();
        const isKit = instrument.clefs[0] === 'percussion';
        // Five fingers that climb, and tonguing, may go a little beyond it.
        const reach = id === 'scale' || id === 'arpeggio' ? 0 : 14;
        for (const midi of [...heights(passage), ...heights(passage, 2)])
          if (!isKit) {
            expect(midi).toBeGreaterThanOrEqual(midiOf(instrument.lowest));
            expect(midi).toBeLessThanOrEqual(midiOf(instrument.highest) + reach);
          }
        expect(gridOf(passage).events.length).toBeGreaterThan(1);
        expect(text?.write(passage).length).toBeGreaterThan(20);
      }),
      { numRuns: 400 },
    );
  });
});

describe('a scale', () => {
  it.each([
    ['C', 'melodic-minor-both', 'C D Eb F G A B C Bb Ab G F Eb D C'],
    ['E', 'phrygian', 'E F G A B C D E D C B A G F E'],
    ['F', 'lydian', 'F G A B C D E F E D C B A G F'],
    ['B', 'locrian', 'B C D E F G A B A G F E D C B'],
    ['A', 'minor-pentatonic', 'A C D E G A G E D C A'],
    ['G', 'major-pentatonic', 'G A B D E G E D B A G'],
    ['C', 'blues', 'C Eb F Gb G Bb C Bb G Gb F Eb C'],
    ['C', 'half-whole', 'C Db Eb E F# G A Bb C Bb A G F# E Eb Db C'],
    ['C', 'whole-tone', 'C D E F# G# Bb C Bb G# F# E D C'],
    ['C', 'chromatic', 'C C# D D# E F F# G G# A A# B C B Bb A Ab G Gb F E Eb D Db C'],
  ])('of %s, %s, is spelled as theory has it', (tonic, scale, expected) => {
    expect(names(makePattern('scale', { tonic, scale }, piano))).toBe(expected);
  });

  it('rises and falls by its own steps in every key: the semitones are those of its kind', () => {
    for (const tonic of TONICS)
      for (const scale of Object.keys(SCALE_KINDS) as ScaleId[]) {
        const up = heights(makePattern('scale', { tonic, scale }, piano));
        const kind = SCALE_KINDS[scale].notes;
        expect(up.slice(0, kind.length).map((midi) => midi - (up[0] ?? 0))).toEqual(kind.map(([, semitones]) => semitones));
        expect(up.at(-1)).toBe(up[0]);
      }
  });

  it('goes to the ends of the instrument where all its range is asked for', () => {
    const flute = instrumentOf('flute');
    const all = heights(makePattern('scale', { tonic: 'G', octaves: 0 }, flute));
    expect([Math.min(...all), Math.max(...all)]).toEqual([midiOf(flute.lowest), midiOf(flute.highest)]);
    expect(all[0]).toBe(all.at(-1));
    // From one note to the next is always a step.
    expect(all.slice(1).every((midi, k) => Math.abs(midi - (all[k] ?? 0)) <= 2)).toBe(true);
  });

  it('has two notes at once where each lies on a string of its own, and one after the other where an instrument has but one', () => {
    const violin = instrumentOf('violin');
    for (const tonic of TONICS)
      for (const interval of [2, 5, 7]) {
        const passage = makePattern('scale', { tonic, interval, sound: 'together' }, violin);
        for (const { notes } of gridOf(passage).events) {
          expect(notes).toHaveLength(2);
          const [lower, upper] = notes.map(({ pitch }) => (pitch ? midiOf(pitch) : 0)) as [number, number];
          const [open] = violin.strings.slice(1).filter(({ pitch }, k) => {
            const below = violin.strings[k]?.pitch;
            return below && midiOf(below) <= lower && midiOf(pitch) <= upper;
          });
          expect(open).toBeDefined();
        }
      }
    const flute = makePattern('scale', { interval: 2, sound: 'together' }, instrumentOf('flute'));
    expect(gridOf(flute).events.every(({ notes }) => notes.length === 1)).toBe(true);
  });

  it('goes apart and comes together in contrary hands, an octave apart in parallel ones', () => {
    const contrary = makePattern('scale', { hands: 'contrary' }, piano);
    const [right, left] = [heights(contrary), heights(contrary, 2)];
    // White keys: what the right hand has above C, the left has below, mirrored in the order of its steps.
    expect(right.map((midi) => midi - (right[0] ?? 0)).slice(0, 8)).toEqual([0, 2, 4, 5, 7, 9, 11, 12]);
    expect(left.map((midi) => midi - (left[0] ?? 0)).slice(0, 8)).toEqual([0, -1, -3, -5, -7, -8, -10, -12]);
    const parallel = makePattern('scale', { hands: 'parallel', octaves: 2 }, piano);
    expect(heights(parallel, 2)).toEqual(heights(parallel).map((midi) => midi - 12));
    expect(parallel.staves).toEqual([{ clef: 'treble' }, { clef: 'bass' }]);
    expect(makePattern('scale', { hands: 'left' }, piano).staves).toEqual([{ clef: 'bass' }]);
  });

  it('fills bars of any meter', () => {
    for (const [meter, beatUnit] of [
      ['3/4', '1/4'],
      ['6/8', '3/8'],
      ['2/2', '1/2'],
    ]) {
      const passage = makePattern('scale', { meter, perBeat: 3, octaves: 2 }, piano);
      expect(passage).toMatchObject({ beatUnit, meters: [{ at: '0' }] });
      expect(`${passage.meters[0]?.count}/${passage.meters[0]?.unit}`).toBe(meter);
    }
  });
});

describe('the fingering of scales at the keyboard', () => {
  const octave = (mode: 'major' | 'minor', tonic: number, hand: Hand) =>
    Array.from({ length: 8 }, (_, degree) => keyboardFinger(mode, tonic, hand, degree, [0, 7])).join('');

  // As handbooks of piano technique print them (common practice, from memory).
  it.each([
    ['major', 'C', 0, '12312345', '54321321'],
    ['major', 'F', 5, '12341234', '54321321'],
    ['major', 'B flat', 10, '21231234', '32143213'],
    ['major', 'E flat', 3, '31234123', '32143213'],
    ['major', 'A flat', 8, '34123123', '32143213'],
    ['major', 'D flat', 1, '23123412', '32143213'],
    ['major', 'F sharp', 6, '23412312', '43213214'],
    ['major', 'B', 11, '12312345', '43214321'],
    ['minor', 'A', 9, '12312345', '54321321'],
    ['minor', 'B', 11, '12312345', '43214321'],
    ['minor', 'F', 5, '12341234', '54321321'],
    ['minor', 'B flat', 10, '21231234', '21321432'],
    ['minor', 'E flat', 3, '31234123', '21432132'],
  ] as const)('of %s on %s is the usual one', (mode, _name, tonic, right, left) => {
    expect(octave(mode, tonic, 'right')).toBe(right);
    expect(octave(mode, tonic, 'left')).toBe(left);
  });

  it('stands over the notes of both hands, over two octaves with the thumb under at the seventh', () => {
    const passage = makePattern('scale', { hands: 'right', octaves: 2 }, piano);
    expect(
      marksOf(passage)
        .slice(0, 15)
        .map(({ finger }) => finger)
        .join(''),
    ).toBe('123123412312345');
    // Never one finger on two neighbours.
    for (const tonic of TONICS)
      for (const hands of ['right', 'left', 'contrary', 'parallel'])
        for (const scale of ['major', 'harmonic-minor']) {
          const made = makePattern('scale', { tonic, hands, scale, octaves: 2 }, piano);
          for (const staff of [1, 2]) {
            const line = made.notes.filter((note) => note.staff === staff).map(({ id }) => made.variants[0]?.marks[id]?.finger);
            expect(line.slice(1).some((finger, k) => finger === line[k])).toBe(false);
          }
        }
  });

  it('is said of keyboards only', () => {
    expect(marksOf(makePattern('scale', { hands: 'right' }, instrumentOf('harp'))).every(({ finger }) => !finger)).toBe(true);
    expect(makePattern('scale', { hands: 'right' }, instrumentOf('violin')).variants).toEqual([]);
  });
});

describe('an arpeggio', () => {
  it.each([
    [{ chord: 'half-diminished', octaves: 1 }, 'C Eb Gb Bb C Bb Gb Eb C'],
    [{ chord: 'minor-sixth', octaves: 1 }, 'C Eb G A C A G Eb C'],
    [{ inversion: 1, octaves: 1 }, 'E G C E C G E'],
    [{ inversion: 3, octaves: 1 }, 'G C E G E C G'],
    [{ chord: 'dominant', inversion: 3, octaves: 1 }, 'Bb C E G Bb G E C Bb'],
    [{ shape: 'broken', octaves: 1 }, 'C E G E G C C G E G E C C'],
  ])('with %o has the notes of its chord in their order', (parameters, expected) => {
    expect(names(makePattern('arpeggio', parameters, piano))).toBe(expected);
  });
});

describe('a rudiment', () => {
  const kit = instrumentOf('drum-kit');
  const hands = (passage: Passage) =>
    passage.notes.flatMap((note, k) => {
      const { hand, sign } = marksOf(passage)[k] ?? {};
      const letter = sign ?? (hand === 'right' ? 'R' : 'L');
      return note.grace ? letter.toLowerCase() : letter;
    });

  it('changes the hand that leads, and begins with the one that is asked for', () => {
    const made = makePattern('rudiment', { rudiment: 'single-paradiddle', times: 1 }, kit);
    expect(hands(made).join('')).toBe('RLRRLRLLR');
    expect(made.notes.map(({ accent }) => accent ?? false).slice(0, 5)).toEqual([true, false, false, false, true]);
    expect(hands(makePattern('rudiment', { rudiment: 'single-paradiddle', times: 1, lead: 'left' }, kit)).join('')).toBe(
      'LRLLRLRRL',
    );
  });

  it('has its flams and drags by the other hand, which are not struck on the grid', () => {
    const flams = makePattern('rudiment', { rudiment: 'flam', times: 2 }, kit);
    expect(hands(flams).join('')).toBe('lRrLlRrLR');
    expect(gridOf(flams).events).toHaveLength(5);
    expect(hands(makePattern('rudiment', { rudiment: 'drag', times: 1 }, kit)).join('')).toBe('llRrrLR');
  });

  it('of five strokes ends on a long accent', () => {
    const roll = makePattern('rudiment', { rudiment: 'five-stroke', times: 1 }, kit);
    expect(roll.notes.slice(0, 5).map(({ length, accent }) => `${length}${accent ? '>' : ''}`)).toEqual([
      '1/8',
      '1/8',
      '1/8',
      '1/8',
      '1/2>',
    ]);
  });

  it('is played by the feet on their own parts of a kit, and by hand where there is but one place', () => {
    // A buzz is one note, which rebounds; the last one rings.
    const buzz = makePattern('rudiment', { rudiment: 'buzz-roll', times: 1 }, kit);
    expect(buzz.notes.map(({ printed }) => printed?.ornament ?? '-')).toEqual(['buzz', 'buzz', 'buzz', 'buzz', '-']);
    const feet = makePattern('rudiment', { rudiment: 'doubles', limbs: 'feet', times: 1 }, kit);
    expect(heights(feet)).toEqual([36, 36, 44, 44, 36]);
    expect(hands(feet).join(' ')).toBe('RF RF LF LF RF');
    expect(heights(makePattern('rudiment', { limbs: 'right-side', times: 1 }, kit)).slice(0, 4)).toEqual([38, 36, 38, 38]);
    // One limb alone, three and four in turn, and led from the other side.
    const by = (limbs: string, more = {}) =>
      heights(makePattern('rudiment', { rudiment: 'singles', times: 1, limbs, ...more }, kit)).join(' ');
    expect(by('left-foot')).toBe('44 44 44 44 44');
    expect(by('right-across')).toBe('38 44 38 44 38');
    expect(by('three', { times: 2 })).toBe('38 38 36 38 38 36 38 38 36');
    expect(by('four')).toBe('38 38 36 44 38');
    expect(by('four', { lead: 'left' })).toBe('38 38 44 36 38');
    const foot = makePattern('rudiment', { rudiment: 'singles', limbs: 'left-foot', lead: 'left' }, kit);
    expect([foot.about, foot.variants[0]?.name]).toEqual(['4 times.', 'the left foot alone']);
    const marimba = makePattern('rudiment', { rudiment: 'flam' }, instrumentOf('marimba'));
    expect(new Set(heights(marimba)).size).toBe(1);
  });
});

describe('a picking roll', () => {
  const banjo = instrumentOf('banjo');

  it('lies over five strings, the drone above the others, and never plucks twice with one finger', () => {
    for (const roll of ['forward', 'backward', 'mixed', 'alternating']) {
      const passage = makePattern('picking-roll', { roll, times: 2 }, banjo);
      const fingers = marksOf(passage).map(({ finger }) => finger);
      expect(fingers.slice(1).some((finger, k) => finger === fingers[k])).toBe(false);
      const fifth = passage.notes.filter((_, k) => marksOf(passage)[k]?.string === '5');
      expect(fifth.map(({ pitch }) => pitch)).toEqual(fifth.map(() => ({ step: 'G', alter: 0, octave: 5 })));
      expect(fifth.length).toBeGreaterThanOrEqual(2);
    }
    expect(PATTERNS.find(({ id }) => id === 'picking-roll')?.suits(instrumentOf('guitar'))).toBe(false);
  });
});

describe('scales and arpeggios on strings', () => {
  const fingering = (passage: Passage) =>
    passage.notes
      .map(({ id }) => passage.variants[0]?.marks[id] ?? {})
      .map(({ string, finger }) => `${string ?? ''}${finger ?? '-'}`)
      .join(' ');
  const violin = instrumentOf('violin');
  const guitar = instrumentOf('guitar');
  const make = (pattern: string, parameters: Record<string, unknown>, instrument = violin) =>
    makePattern(pattern, parameters, instrument);

  // The fingers that beginners' books have for these (common practice, from memory): strings by number, open strings 0.
  it('have the fingers of their position: violin in first and third, guitar at its frets', () => {
    expect(fingering(make('scale', { tonic: 'G', octaves: 1, place: 'position 1' }))).toBe(
      '40 41 42 43 30 31 32 33 32 31 30 43 42 41 40',
    );
    expect(fingering(make('scale', { tonic: 'D', octaves: 1, place: 'position 3' }))).toBe(
      '42 43 44 31 32 33 34 21 34 33 32 31 44 43 42',
    );
    // C in the second position of the guitar begins with the second finger on the fifth string.
    expect(fingering(make('scale', { tonic: 'C', octaves: 1, place: 'position 2' }, guitar))).toBe(
      '52 54 41 42 44 31 33 34 33 31 44 42 41 54 52',
    );
    expect(fingering(make('arpeggio', { tonic: 'G', octaves: 2, place: 'position 1' }))).toBe(
      '40 42 30 33 21 23 12 23 21 33 30 42 40',
    );
  });

  it('go along one string, as far as it has them', () => {
    const along = make('scale', { tonic: 'A', octaves: 1, place: 'string 2' });
    expect(fingering(along)).toBe('20 2- 2- 2- 2- 2- 2- 2- 2- 2- 2- 2- 2- 2- 20');
    expect(along.title).toBe('A major, along string 2');
  });

  it.each(['violin', 'viola', 'mandolin', 'guitar', 'bass-guitar', 'cello', 'banjo'])(
    'of the %s lie where they are put, in every key, or else say that they are anywhere',
    (id) => {
      const instrument = instrumentOf(id);
      const [field] = placeField(instrument);
      let placed = 0;
      for (const { value } of field?.choices ?? [])
        for (const tonic of ['C', 'Eb', 'F#', 'A'])
          for (const pattern of ['scale', 'arpeggio'])
            for (const octaves of [0, 1, 2]) {
              if (pattern === 'arpeggio' && octaves === 0) continue;
              const made = make(pattern, { tonic, octaves, place: value }, instrument);
              const isPlaced = made.generator?.parameters.place !== 'anywhere';
              placed += Number(isPlaced);
              expect(isPlaced).toBe(made.title.includes(`${value}`) && value !== 'anywhere');
              if (!`${value}`.startsWith('string')) expect(fingering(made).includes('-')).toBe(!isPlaced);
              for (const { id: note, pitch } of made.notes) {
                const marks = made.variants[0]?.marks[note];
                const open = instrument.strings.find(({ name }) => name === marks?.string)?.pitch;
                if (isPlaced) expect(midiOf(pitch as Pitch)).toBeGreaterThanOrEqual(midiOf(open as Pitch));
              }
            }
      expect(placed).toBeGreaterThan(0);
    },
  );

  it('are not asked of instruments without strings', () => {
    for (const id of ['piano', 'flute', 'trumpet', 'any']) expect(placeField(instrumentOf(id))).toEqual([]);
    expect(make('scale', { tonic: 'C', place: 'position 3' }, instrumentOf('flute')).title).toBe('C major');
  });
});
