import { z } from 'zod';
import { beats } from '../../schema/beats';
import { barStarts } from '../../schema/frame';
import type { GridEvent } from '../../schema/grid';
import { looped } from '../reshape/chain';
import { numberField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  clicked: z.number().int().min(1).max(8).default(2),
  silent: z.number().int().min(1).max(8).default(2),
});

/** The click falls silent for some bars and comes back: how far one has drifted by then is one's own clock. */
export const GAPS: Method<z.infer<typeof Parameters>> = {
  id: 'gaps',
  name: 'Gaps in the click',
  about: 'The click falls silent for some bars and comes back: where you are by then shows your own clock.',
  category: 'sure',
  stage: 'click',
  parameters: Parameters,
  fields: [numberField('clicked', 'Bars with click', [1, 2, 4, 8]), numberField('silent', 'Bars without', [1, 2, 4, 8])],
  drills: (grid, parameters) => {
    const { clicked, silent } = parameters;
    // Into the silence and out of it again, at least once.
    const least = clicked + silent + 1;
    const whole = looped(grid, Math.ceil(least / grid.bars));
    const lines = barStarts(whole);
    const isReturn = ({ at }: GridEvent) =>
      lines.some((line, bar) => bar > 0 && bar % (clicked + silent) === 0 && line.equals(beats(at)));
    return [
      makeDrill(
        'gaps',
        parameters,
        { ...whole, events: whole.events.map((event): GridEvent => (isReturn(event) ? { ...event, role: 'return' } : event)) },
        { clicked, silent },
        { click: { kind: 'beat', divisions: 2, countInBars: 1, gap: { clickedBars: clicked, silentBars: silent } } },
      ),
    ];
  },
};
