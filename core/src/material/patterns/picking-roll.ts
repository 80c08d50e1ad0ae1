import { z } from 'zod';
import { numberField, wordField } from '../../rhythm/methods/fields';
import type { Pattern } from './pattern';
import { meterField, PATTERN_METER_NAMES } from './pattern-frame';
import { patternPassage } from './pattern-passage';

/**
 * Rolls of thumb (t), index (i) and middle finger (m) over five strings, the fifth being the drone (common practice of the five-string
 * banjo, from memory). A place is a finger and a string.
 */
const ROLLS = {
  forward: { name: 'forward', places: 't3 i2 m1 t5 i2 m1 t5 m1' },
  backward: { name: 'backward', places: 'm1 i2 t5 m1 i2 t5 m1 i2' },
  mixed: { name: 'forward and backward', places: 't3 i2 m1 t5 m1 i2 t3 m1' },
  alternating: { name: 'alternating thumb', places: 't3 i2 t5 m1 t4 i2 t5 m1' },
} as const satisfies Record<string, { name: string; places: string }>;
type RollId = keyof typeof ROLLS;

const Parameters = z.object({
  roll: z.enum(Object.keys(ROLLS) as [RollId, ...RollId[]]).default('forward'),
  times: z.number().int().min(1).max(16).default(4),
  meter: z.enum(PATTERN_METER_NAMES).default('4/4'),
  perBeat: z.number().int().min(1).max(6).default(4),
});

/** A roll of three fingers over the open strings, again and again. */
export const PICKING_ROLL: Pattern<z.infer<typeof Parameters>> = {
  id: 'picking-roll',
  name: 'Picking roll',
  about: 'Thumb, index and middle finger in turn over open strings, with the drone.',
  suits: ({ strings, profileId }) => profileId === 'plucked' && strings.length === 5,
  parameters: Parameters,
  fields: () => [
    wordField('roll', 'Roll', Object.fromEntries(Object.entries(ROLLS).map(([id, { name }]) => [id, name]))),
    numberField('times', 'Times', [1, 2, 4, 8, 16]),
    meterField(),
    numberField('perBeat', 'Notes to the beat', [2, 3, 4, 6]),
  ],
  make(parameters, instrument) {
    const { roll, times, meter, perBeat } = parameters;
    const { name, places } = ROLLS[roll];
    const notes = places.split(' ').map((place) => {
      const [finger = '', string = ''] = place;
      const open = instrument.strings.find((one) => one.name === string);
      return { pitch: open?.pitch ?? instrument.lowest, marks: { finger, string } };
    });
    return patternPassage({
      id: 'pattern',
      title: `Picking roll: ${name}`,
      about: `${times} times, ${perBeat} to the beat.`,
      instrument,
      perBeat,
      meter,
      goalBpm: 100,
      variant: 'thumb, index, middle',
      notes: [...Array.from({ length: times }, () => notes).flat(), ...notes.slice(0, 1)],
      parameters,
      generator: 'picking-roll',
    });
  },
};
