import { z } from 'zod';
import type { Grid } from '../../schema/grid';
import { wordField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({ how: z.enum(['clap', 'tap', 'sing']).default('clap') });

/** The same rhythm without pitches: one clap or tap an event. */
const unpitched = (grid: Grid): Grid => ({
  ...grid,
  staves: [{ clef: 'percussion' }],
  events: grid.events.map((event) => ({
    ...event,
    notes: event.notes
      .slice(0, 1)
      .map(({ from, length, voice }) => ({ from, length, voice, pitch: null, staff: 1, marks: {} })),
  })),
});

/** The same grid without the instrument: clapped, tapped or sung. */
export const CLAP_FIRST: Method<z.infer<typeof Parameters>> = {
  id: 'clap-first',
  name: 'Clap, tap or sing first',
  about: 'The rhythm without the instrument: what cannot be clapped in time cannot be played in time.',
  category: 'learn',
  stage: 'touch',
  parameters: Parameters,
  fields: [wordField('how', 'With', { clap: 'the hands', tap: 'the space bar or the pad', sing: 'the voice' })],
  drills: (grid, { how }) => [
    makeDrill(
      'clap-first',
      { how },
      how === 'sing' ? grid : unpitched(grid),
      { how },
      {
        judging: { leftOut: ['accents'] },
        ...(how === 'sing' ? {} : { listen: 'claps' as const }),
      },
    ),
  ],
};
