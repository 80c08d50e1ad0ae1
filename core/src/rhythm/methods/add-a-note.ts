import { z } from 'zod';
import { cutGrid } from '../reshape/cut';
import { rangeField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  /** The first note, from 1. */
  from: z.number().int().min(1).max(20_000).default(1),
  /** How many notes there are at last. */
  upTo: z.number().int().min(2).max(64).default(9),
});

/** Two notes at full tempo, then three, then four, always from the same start. */
export const ADD_A_NOTE: Method<z.infer<typeof Parameters>> = {
  id: 'add-a-note',
  name: 'Add a note',
  about: 'Two notes at full tempo, then one more each time: what goes wrong is always the note that was just added.',
  category: 'learn',
  stage: 'notes',
  parameters: Parameters,
  fields: [rangeField('from', 'From note', 1, 20_000), rangeField('upTo', 'Up to so many notes', 2, 64)],
  drills: (grid, parameters) => {
    const from = Math.min(parameters.from, Math.max(1, grid.events.length - 1)) - 1;
    const most = Math.min(parameters.upTo, grid.events.length - from);
    return Array.from({ length: Math.max(1, most - 1) }, (_, k) =>
      makeDrill('add-a-note', parameters, cutGrid(grid, from, Math.min(grid.events.length, from + k + 2)), {
        count: Math.min(most, k + 2),
      }),
    );
  },
};
