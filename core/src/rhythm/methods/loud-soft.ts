import { z } from 'zod';
import type { Grid } from '../../schema/grid';
import type { Dynamic } from '../../schema/notation';
import { wordField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({ levels: z.enum(['soft-loud', 'soft', 'loud', 'extremes']).default('soft-loud') });

const LEVELS: Record<z.infer<typeof Parameters>['levels'], readonly Dynamic[]> = {
  'soft-loud': ['p', 'f'],
  soft: ['p'],
  loud: ['f'],
  extremes: ['pp', 'ff'],
};

const at = (grid: Grid, dynamic: Dynamic): Grid => ({
  ...grid,
  events: grid.events.map((event, k) => ({
    ...event,
    notes: event.notes.map(({ dynamic: _, ...note }, n) => (k === 0 && n === 0 ? { ...note, dynamic } : note)),
  })),
});

/** The same at set dynamics: evenness must not depend on the level. */
export const LOUD_SOFT: Method<z.infer<typeof Parameters>> = {
  id: 'loud-soft',
  name: 'Loud and soft',
  about: 'The same notes softly and loudly: control is being as even at both, and both being what they are called.',
  category: 'even',
  stage: 'dynamic',
  parameters: Parameters,
  fields: [
    wordField('levels', 'Play', {
      'soft-loud': 'softly, then loudly',
      soft: 'softly',
      loud: 'loudly',
      extremes: 'very softly, then very loudly',
    }),
  ],
  drills: (grid, { levels }) =>
    LEVELS[levels].map((dynamic) =>
      makeDrill('loud-soft', { levels }, at(grid, dynamic), { dynamic }, { judging: { leftOut: [], dynamic } }),
    ),
};
