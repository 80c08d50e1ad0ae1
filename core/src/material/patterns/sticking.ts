import { z } from 'zod';
import { numberField, wordField } from '../../rhythm/methods/fields';
import type { Pattern } from './pattern';
import { patternPassage } from './pattern-passage';

const Parameters = z.object({
  /** Hands in order, as R and L. */
  hands: z
    .string()
    .regex(/^[RL]{2,16}$/)
    .default('RLRL'),
  /** The place of the accent, from 1; 0 for none. */
  accent: z.number().int().min(0).max(16).default(1),
  times: z.number().int().min(1).max(16).default(8),
  perBeat: z.number().int().min(1).max(8).default(4),
  lead: z.enum(['as written', 'swapped']).default('as written'),
});

/** Singles, doubles and mixtures: all cyclic orders come of these letters. */
const OFFERED: Record<string, string> = {
  RLRL: 'singles',
  RRLL: 'doubles',
  RLRRLRLL: 'single and double, mixed',
  RRLRLL: 'double, single, in sixes',
  RLLRLL: 'one and two',
  RLRLRR: 'four singles and a double',
  RRRLLL: 'threes',
  RRRRLLLL: 'fours',
  RLRLRLRRLRLRLRLL: 'six singles and a double',
};

/** Hands in an order, over and over, accented where one likes. */
export const STICKING: Pattern<z.infer<typeof Parameters>> = {
  id: 'sticking',
  name: 'Sticking',
  about: 'Single, double and mixed strokes of two hands in an order, with an accent that can stand anywhere.',
  suits: ({ marks }) => marks.includes('stick'),
  parameters: Parameters,
  fields: () => [
    wordField(
      'hands',
      'Hands',
      Object.fromEntries(Object.entries(OFFERED).map(([order, name]) => [order, `${[...order].join(' ')} (${name})`])),
    ),
    numberField('accent', 'Accent', [0, 1, 2, 3, 4, 5, 6, 7, 8], (n) => (n === 0 ? 'none' : `on stroke ${n}`)),
    numberField('times', 'Times', [2, 4, 8, 16]),
    numberField('perBeat', 'Strokes to the beat', [2, 3, 4, 6, 8]),
    wordField('lead', 'Leading hand', { 'as written': 'as written', swapped: 'the other' }),
  ],
  make(parameters, instrument) {
    const { hands, accent, times, perBeat, lead } = parameters;
    const isPercussion = instrument.clefs[0] === 'percussion';
    const middle = isPercussion ? null : instrument.lowest;
    const letters = [...hands].map((hand) => (lead === 'swapped' ? (hand === 'R' ? 'L' : 'R') : hand));
    const strokes = [...Array.from({ length: times }, () => letters).flat(), letters[0] as string];
    return patternPassage({
      id: 'pattern',
      title: `Sticking: ${letters.join(' ')}`,
      about: `${perBeat} strokes to the beat${accent ? `, accent on stroke ${accent}` : ''}.`,
      instrument,
      perBeat,
      goalBpm: 100,
      variant: lead === 'swapped' ? 'the other hand leads' : 'as written',
      notes: strokes.map((hand, k) => ({
        pitch: middle && { ...middle, octave: middle.octave + 1 },
        marks: { hand: hand === 'R' ? 'right' : 'left' },
        accent: accent > 0 && k < strokes.length - 1 && k % letters.length === accent - 1,
      })),
      parameters,
      generator: 'sticking',
    });
  },
};
