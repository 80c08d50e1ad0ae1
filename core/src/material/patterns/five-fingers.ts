import { z } from 'zod';
import { numberField, wordField } from '../../rhythm/methods/fields';
import { above, lowestTonic, signatureOf, TONICS, tonicField } from './keys';
import { startInMiddle } from './melodic-range';
import type { Pattern } from './pattern';
import { patternPassage } from './pattern-passage';

const MAJOR = [0, 2, 4, 5, 7];

const Parameters = z.object({
  tonic: z.enum(TONICS).default('C'),
  /** The order of the fingers, as digits 1 to 5; every order of them is a pattern. */
  order: z
    .string()
    .regex(/^[1-5]{2,10}$/)
    .default('13243545'),
  hand: z.enum(['right', 'left']).default('right'),
  /** How often the figure is played, each time a step higher or at the same place. */
  times: z.number().int().min(1).max(8).default(4),
  moves: z.enum(['stays', 'climbs']).default('stays'),
  perBeat: z.number().int().min(1).max(6).default(4),
});

/** Orders that are offered; any other can be stored with a passage, there is no field to type one. */
const ORDERS = ['12345432', '13243545', '15243524', '14253524', '12132314', '54535251', '1353', '1525'];

/** Five neighbouring notes under five fingers in a chosen order, at one place or climbing. */
export const FIVE_FINGERS: Pattern<z.infer<typeof Parameters>> = {
  id: 'five-fingers',
  name: 'Five fingers',
  about: 'Five neighbouring notes under five fingers, in an order that you choose.',
  suits: ({ marks, clefs }) => marks.includes('finger') && clefs[0] !== 'percussion',
  parameters: Parameters,
  fields: () => [
    tonicField('From'),
    wordField('order', 'Fingers', Object.fromEntries(ORDERS.map((order) => [order, [...order].join(' ')]))),
    wordField('hand', 'Hand', { right: 'right', left: 'left' }),
    numberField('times', 'Times', [1, 2, 4, 8]),
    wordField('moves', 'Each time', { stays: 'at the same place', climbs: 'a step higher' }),
    numberField('perBeat', 'Notes to the beat', [2, 3, 4, 6]),
  ],
  make(parameters, instrument) {
    const { tonic, order, hand, times, moves, perBeat } = parameters;
    const first = lowestTonic(tonic, instrument);
    const start = startInMiddle(first, 1, instrument);
    const from = { ...first, octave: first.octave + start };
    const scale = [0, 2, 4, 5, 7, 9, 11];
    const pitchAt = (degree: number) => above(from, degree, 12 * Math.floor(degree / 7) + (scale[degree % 7] ?? 0));
    const figure = [...order].map(Number);
    const notes = Array.from({ length: times }, (_, time) =>
      figure.map((finger) => {
        const place = hand === 'right' ? finger - 1 : 5 - finger;
        const pitch = moves === 'climbs' ? pitchAt(place + time) : above(from, place, MAJOR[place] ?? 0);
        return { pitch, marks: { finger: String(finger), hand } };
      }),
    ).flat();
    const summary = { pitch: pitchAt(0), marks: { finger: hand === 'right' ? '1' : '5', hand } };
    return patternPassage({
      id: 'pattern',
      title: `Five fingers: ${[...order].join(' ')}`,
      about: `The ${hand} hand, ${perBeat} to the beat.`,
      instrument,
      perBeat,
      fifths: signatureOf(tonic, 0),
      goalBpm: 112,
      variant: `${hand} hand`,
      notes: [...notes, summary],
      parameters,
      generator: 'five-fingers',
    });
  },
};
