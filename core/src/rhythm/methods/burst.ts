import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import { cutGrid } from '../reshape/cut';
import { fillBars, lasting } from '../reshape/fill-bars';
import { usualStep } from '../reshape/runs';
import { numberField, yesNoField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  size: z.number().int().min(2).max(8).default(4),
  landing: z.boolean().default(true),
});

/** One group at a time as fast as it goes, without a click, single; measured by its own rate, its evenness and its landing. */
export const BURST: Method<z.infer<typeof Parameters>> = {
  id: 'burst',
  name: 'Bursts',
  about: 'One group, as fast as it will go, once and loose, without a click: it shows what the hand can do already.',
  category: 'speed',
  stage: 'groups',
  keepsOthers: true,
  parameters: Parameters,
  fields: [numberField('size', 'Notes in a burst', [3, 4, 5, 6, 8]), yesNoField('landing', 'With a landing note')],
  drills: (grid, parameters) => {
    const { size, landing } = parameters;
    const each = beats(usualStep(grid));
    const length = size + (landing ? 1 : 0);
    const starts = Array.from({ length: Math.max(1, Math.ceil((grid.events.length - length + 1) / size)) }, (_, k) => k * size);
    return starts.map((from, k) => {
      const piece = cutGrid(grid, from, Math.min(grid.events.length, from + length));
      const events = piece.events.map((event, n) => ({
        ...lasting(event, each),
        at: writeBeats(each.mul(n)),
        ...(landing && n === piece.events.length - 1 ? { role: 'landing' as const } : {}),
      }));
      return makeDrill(
        'burst',
        parameters,
        fillBars({ ...piece, pickup: '0' }, events),
        { number: k + 1, of: starts.length },
        {
          click: { kind: 'none', divisions: 2, countInBars: 1 },
          judging: { leftOut: ['drift', 'placement'], ownTempo: true },
        },
      );
    });
  },
};
