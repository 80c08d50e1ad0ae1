import { z } from 'zod';
import { numberField, wordField } from '../../rhythm/methods/fields';
import { above, isInRange, lowestTonic, signatureOf, TONICS, tonicField, tonicName } from './keys';
import type { Pattern } from './pattern';
import { patternPassage } from './pattern-passage';
import { startInMiddle } from './scale';

/** Chords by steps and semitones of their notes above the root. */
const CHORDS = {
  major: {
    name: 'major',
    notes: [
      [0, 0],
      [2, 4],
      [4, 7],
    ],
    away: 0,
  },
  minor: {
    name: 'minor',
    notes: [
      [0, 0],
      [2, 3],
      [4, 7],
    ],
    away: -3,
  },
  diminished: {
    name: 'diminished',
    notes: [
      [0, 0],
      [2, 3],
      [4, 6],
    ],
    away: -3,
  },
  augmented: {
    name: 'augmented',
    notes: [
      [0, 0],
      [2, 4],
      [4, 8],
    ],
    away: 0,
  },
  dominant: {
    name: 'dominant seventh',
    notes: [
      [0, 0],
      [2, 4],
      [4, 7],
      [6, 10],
    ],
    away: -1,
  },
  'major-seventh': {
    name: 'major seventh',
    notes: [
      [0, 0],
      [2, 4],
      [4, 7],
      [6, 11],
    ],
    away: 0,
  },
  'minor-seventh': {
    name: 'minor seventh',
    notes: [
      [0, 0],
      [2, 3],
      [4, 7],
      [6, 10],
    ],
    away: -3,
  },
  'diminished-seventh': {
    name: 'diminished seventh',
    notes: [
      [0, 0],
      [2, 3],
      [4, 6],
      [6, 9],
    ],
    away: -3,
  },
} as const;
type Kind = keyof typeof CHORDS;

const Parameters = z.object({
  tonic: z.enum(TONICS).default('C'),
  chord: z.enum(Object.keys(CHORDS) as [Kind, ...Kind[]]).default('major'),
  octaves: z.number().int().min(1).max(4).default(2),
  perBeat: z.number().int().min(1).max(6).default(3),
});

/** A broken chord in any key, up and down, within the instrument's range. */
export const ARPEGGIO: Pattern<z.infer<typeof Parameters>> = {
  id: 'arpeggio',
  name: 'Arpeggio',
  about: 'The notes of a chord, one after the other, up and down.',
  suits: ({ clefs }) => clefs[0] !== 'percussion',
  parameters: Parameters,
  fields: () => [
    tonicField('Root'),
    wordField('chord', 'Chord', Object.fromEntries(Object.entries(CHORDS).map(([id, { name }]) => [id, name]))),
    numberField('octaves', 'Octaves', [1, 2, 3, 4]),
    numberField('perBeat', 'Notes to the beat', [1, 2, 3, 4, 6]),
  ],
  make(parameters, instrument) {
    const { tonic, chord, perBeat } = parameters;
    const { notes, away, name } = CHORDS[chord];
    const first = lowestTonic(tonic, instrument);
    const pitchAt = (place: number) => {
      const octave = Math.floor(place / notes.length);
      const [steps, semitones] = notes[place % notes.length] as readonly [number, number];
      return above(first, 7 * octave + steps, 12 * octave + semitones);
    };
    let octaves = parameters.octaves;
    while (octaves > 1 && !isInRange(pitchAt(notes.length * octaves), instrument)) octaves -= 1;
    const start = startInMiddle(first, octaves, instrument);
    const up = Array.from({ length: notes.length * octaves + 1 }, (_, k) => k);
    return patternPassage({
      id: 'pattern',
      title: `${tonicName(tonic)} ${name} arpeggio`,
      about: `${octaves} ${octaves === 1 ? 'octave' : 'octaves'}, ${perBeat} to the beat.`,
      instrument,
      perBeat,
      fifths: signatureOf(tonic, away),
      goalBpm: 90,
      variant: '',
      notes: [...up, ...up.slice(0, -1).reverse()].map((place) => ({
        pitch: { ...pitchAt(place), octave: pitchAt(place).octave + start },
      })),
      parameters: { ...parameters, octaves },
      generator: 'arpeggio',
    });
  },
};
