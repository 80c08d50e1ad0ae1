import { z } from 'zod';
import { inCells } from './cells';
import { numberField, wordField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const ORDINALS: Record<number, string> = { 1: 'st', 2: 'nd', 3: 'rd' };
const RATIOS = { dotted: 3, triplet: 2, half: 0 } as const;

const Parameters = z.object({
  size: z.number().int().min(2).max(6).default(2),
  /** The place of the long note in its group, from 1; 0 for every place in turn. */
  long: z.number().int().min(0).max(6).default(0),
  /** How long it is: three or two times a short one, or half of the group's time. */
  ratio: z.enum(['dotted', 'triplet', 'half']).default('dotted'),
});

/** One note of each group long, the others quick, in the group's own time; every place of the long note in turn. */
export const LONG_SHORT: Method<z.infer<typeof Parameters>> = {
  id: 'long-short',
  name: 'Long and short',
  about: 'One note of each group is held and the others are quick, so that every connection is once played fast.',
  category: 'even',
  parameters: Parameters,
  fields: [
    numberField('size', 'Groups of', [2, 3, 4, 5, 6]),
    numberField('long', 'The long note', [0, 1, 2, 3, 4, 5, 6], (n) =>
      n === 0 ? 'each in turn' : `the ${n}${ORDINALS[n] ?? 'th'}`,
    ),
    wordField('ratio', 'It lasts', { dotted: 'three short ones', triplet: 'two short ones', half: 'half of the group' }),
  ],
  drills: (grid, parameters) => {
    const { size, long, ratio } = parameters;
    const weight = RATIOS[ratio] || size - 1;
    const places = long >= 1 && long <= size ? [long] : Array.from({ length: size }, (_, k) => k + 1);
    return places.map((place) => {
      const weights = Array.from({ length: size }, (_, k) => (k + 1 === place ? weight : 1));
      return makeDrill('long-short', { ...parameters, long: place }, inCells(grid, { weights, spans: size }), { place, size });
    });
  },
};
