import { cross, range } from 'd3-array';
import { z } from 'zod';
import { numberField, wordField } from '../../rhythm/methods/fields';
import { CHORD_KINDS, type ChordId, type ChordKind } from './chord-kinds';
import { above, isInRange, lowestTonic, signatureOf, TONICS, tonicField, tonicName } from './keys';
import { isTwoHanded, startsInOrder } from './melodic-range';
import { ANYWHERE, placeField, placeWords, placingOf } from './on-strings';
import type { Pattern } from './pattern';
import { meterField, PATTERN_METER_NAMES } from './pattern-frame';
import { type PatternNote, patternPassage } from './pattern-passage';

const INVERSIONS = ['root position', 'first inversion', 'second inversion', 'third inversion'];
const SHAPES = { through: 'up and down', broken: 'each position in turn' } as const;
const HANDS = { one: 'one line', parallel: 'both hands' } as const;

const Parameters = z.object({
  tonic: z.enum(TONICS).default('C'),
  chord: z.enum(Object.keys(CHORD_KINDS) as [ChordId, ...ChordId[]]).default('major'),
  /** Which note of the chord is the lowest, the root being 0; chords of three notes have no third inversion. */
  inversion: z.number().int().min(0).max(3).default(0),
  shape: z.enum(['through', 'broken']).default('through'),
  octaves: z.number().int().min(1).max(4).default(2),
  hands: z.enum(['one', 'parallel']).default('one'),
  place: z.string().max(20).default(ANYWHERE),
  meter: z.enum(PATTERN_METER_NAMES).default('4/4'),
  perBeat: z.number().int().min(1).max(8).default(3),
});

/** The places of an arpeggio among the notes of its chord, from its lowest on: once through, or as a group of neighbours from each. */
const placesOf = (shape: keyof typeof SHAPES, inChord: number, octaves: number): number[] => {
  const top = inChord * octaves;
  if (shape === 'through') return [...range(top + 1), ...range(top - 1, -1, -1)];
  const group = (from: number, by: 1 | -1) => range(inChord).map((k) => from + by * k);
  return [
    ...range(top - inChord + 2).flatMap((from) => group(from, 1)),
    ...range(top, inChord - 2, -1).flatMap((from) => group(from, -1)),
    0,
  ];
};

/** A broken chord in any key and inversion, up and down, within the instrument's range. */
export const ARPEGGIO: Pattern<z.infer<typeof Parameters>> = {
  id: 'arpeggio',
  name: 'Arpeggio',
  about: 'The notes of a chord, one after the other: through its octaves, or each position in turn.',
  suits: ({ clefs }) => clefs[0] !== 'percussion',
  parameters: Parameters,
  fields: (instrument) => [
    tonicField('Root'),
    wordField('chord', 'Chord', Object.fromEntries(Object.entries(CHORD_KINDS).map(([id, { name }]) => [id, name]))),
    numberField('inversion', 'From', [0, 1, 2, 3], (n) => INVERSIONS[n] as string),
    wordField('shape', 'Order', SHAPES),
    numberField('octaves', 'Octaves', [1, 2, 3, 4]),
    ...(isTwoHanded(instrument) ? [wordField('hands', 'Hands', HANDS)] : []),
    ...placeField(instrument),
    meterField(),
    numberField('perBeat', 'Notes to the beat', [1, 2, 3, 4, 6, 8]),
  ],
  make(parameters, instrument) {
    const { tonic, chord, shape, meter, perBeat } = parameters;
    const { notes, away, name }: ChordKind = CHORD_KINDS[chord];
    const inChord = notes.length;
    const isBoth = parameters.hands === 'parallel' && isTwoHanded(instrument);
    const first = lowestTonic(tonic, instrument);
    const pitchAt = (place: number) => {
      const octave = Math.floor(place / inChord);
      const [steps, semitones] = notes[place - octave * inChord] as readonly [number, number];
      return above(first, 7 * octave + steps, 12 * octave + semitones);
    };
    const chosen = placingOf(instrument, parameters.place);
    const fits = (inversion: number, octaves: number, shift: number, place: typeof chosen): boolean => {
      const [low, high] = [inversion + (shift - (isBoth ? 1 : 0)) * inChord, inversion + (octaves + shift) * inChord];
      return range(low, high + 1).every((at) => isInRange(pitchAt(at), instrument) && place?.(pitchAt(at)) !== null);
    };
    // Fewer octaves rather than another inversion, either rather than another place; the root's own position always has room.
    const { octaves, shift, inversion, placing } = cross(
      chosen ? [chosen, null] : [null],
      [Math.min(parameters.inversion, inChord - 1), 0],
      range(parameters.octaves, 0, -1),
    )
      .flatMap(([place, inversion, octaves]) =>
        startsInOrder(first, octaves, instrument).map((shift) => ({ inversion, octaves, shift, placing: place })),
      )
      .find((one) => fits(one.inversion, one.octaves, one.shift, one.placing)) ?? {
      octaves: 1,
      shift: 0,
      inversion: 0,
      placing: null,
    };
    const line = (down: number): PatternNote[] =>
      placesOf(shape, inChord, octaves).map((place) => {
        const pitch = pitchAt(inversion + place + (shift - down) * inChord);
        return { pitch, ...(placing ? { marks: placing(pitch) ?? {} } : {}) };
      });
    return patternPassage({
      id: 'pattern',
      title: `${tonicName(tonic)} ${name} arpeggio${inversion ? `, ${INVERSIONS[inversion]}` : ''}${isBoth ? ', both hands' : ''}${placing ? `, ${placeWords(parameters.place)}` : ''}`,
      about: `${octaves} ${octaves === 1 ? 'octave' : 'octaves'}, ${SHAPES[shape]}, ${perBeat} to the beat.`,
      instrument,
      perBeat,
      meter,
      fifths: signatureOf(tonic, away),
      goalBpm: 90,
      variant: placing ? 'usual fingering' : '',
      notes: line(0),
      ...(isBoth ? { lower: line(1) } : {}),
      parameters: { ...parameters, octaves, inversion, place: placing ? parameters.place : ANYWHERE },
      generator: 'arpeggio',
    });
  },
};
