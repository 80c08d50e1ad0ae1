import { z } from 'zod';
import { lineOf } from '../line';
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
  keepsOthers: true,
  parameters: Parameters,
  fields: [rangeField('from', 'From note', 1, 20_000), rangeField('upTo', 'Up to so many notes', 2, 64)],
  drills: (grid, parameters) => {
    const from = Math.min(parameters.from, Math.max(1, grid.events.length - 1)) - 1;
    // A note more is one of the leading voice: what others have until then comes with it.
    const added = lineOf(grid).filter((index) => index > from);
    const ends = added.length > 0 ? added.slice(0, parameters.upTo - 1) : [grid.events.length - 1];
    return ends.map((last, k) => makeDrill('add-a-note', parameters, cutGrid(grid, from, last + 1), { count: k + 2 }));
  },
};
