import { z } from 'zod';
import { inCells } from './cells';
import { makeDrill } from './make-drill';
import type { Method } from './method';

/** Forms by their notes' lengths, in units of the quick note; each takes whole beats when played over notes of a quarter of one. */
const FORMS = [
  ['211', [2, 1, 1]],
  ['112', [1, 1, 2]],
  ['121', [1, 2, 1]],
  ['31', [3, 1]],
  ['13', [1, 3]],
] as const;
/** Triplet forms take as long as three notes: two of them long and short, or evenly three in the time of two. */
const TRIPLETS = [
  ['21', [2, 1]],
  ['12', [1, 2]],
] as const;

const Parameters = z.object({ form: z.enum(['each', '211', '112', '121', '31', '13', 'triplets']).default('each') });

/** The notes of a run in the mixed figures of one beat: eighth and two sixteenths, and so on; and in triplet figures. */
export const MIXED_FORMS: Method<z.infer<typeof Parameters>> = {
  id: 'mixed-forms',
  name: 'Mixed figures',
  about: 'The same notes in figures of long and quick ones, a figure to the beat, so that no group falls on the same beat.',
  category: 'even',
  parameters: Parameters,
  fields: [
    {
      key: 'form',
      label: 'Figure',
      choices: [
        { value: 'each', name: 'each in turn' },
        { value: '211', name: 'long, quick, quick' },
        { value: '112', name: 'quick, quick, long' },
        { value: '121', name: 'quick, long, quick' },
        { value: '31', name: 'dotted and quick' },
        { value: '13', name: 'quick and dotted' },
        { value: 'triplets', name: 'triplet figures' },
      ],
    },
  ],
  drills: (grid, { form }) => {
    const plain = FORMS.filter(([name]) => form === 'each' || form === name);
    const triplets = form === 'each' || form === 'triplets' ? TRIPLETS : [];
    return [
      ...plain.map(([name, weights]) =>
        makeDrill(
          'mixed-forms',
          { form: name },
          inCells(grid, { weights, spans: weights.reduce<number>((sum, one) => sum + one, 0) }),
          { form: name },
        ),
      ),
      ...triplets.map(([name, weights]) =>
        makeDrill('mixed-forms', { form: 'triplets' }, inCells(grid, { weights, spans: 2 }), { form: `t${name}` }),
      ),
    ];
  },
};
