import { z } from 'zod';
import { cutGrid } from '../reshape/cut';
import { rangeField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  /** The first and the last note of the spot, from 1. */
  from: z.number().int().min(1).max(20_000).default(1),
  to: z.number().int().min(1).max(20_000).default(8),
});

/** A few notes by themselves, ending on the one after: for a spot that was measured or met. */
export const AROUND: Method<z.infer<typeof Parameters>> = {
  id: 'around',
  name: 'One spot',
  about: 'Only the notes around one spot, up to where it is safe again.',
  category: 'learn',
  stage: 'notes',
  parameters: Parameters,
  fields: [rangeField('from', 'From note', 1, 20_000), rangeField('to', 'To note', 1, 20_000)],
  drills: (grid, parameters) => {
    const last = grid.events.length;
    const from = Math.min(parameters.from, Math.max(1, last - 1));
    const to = Math.min(last, Math.max(parameters.to, from + 1));
    return [makeDrill('around', { from, to }, cutGrid(grid, from - 1, to), { from, to })];
  },
};
