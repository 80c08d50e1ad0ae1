import { z } from 'zod';
import type { Drill, Grid, GridEvent, GridNote } from '../../schema/grid';
import type { Marks } from '../../schema/notation';
import { wordField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  how: z.enum(['both', 'staccato', 'legato']).default('both'),
  /** By which bow strokes short notes are played: written as marks, not heard. */
  strokes: z.enum(['written', 'down', 'up', 'alternate', 'flicked']).default('written'),
});

type Strokes = z.infer<typeof Parameters>['strokes'];

/** What is written beside the note of a place, for a way of bowing. */
const STROKE_MARKS: Record<Strokes, (place: number) => Pick<Marks, 'stroke' | 'sign'>> = {
  written: () => ({}),
  down: () => ({ stroke: 'down' }),
  up: () => ({ stroke: 'up' }),
  alternate: (place) => ({ stroke: place % 2 === 0 ? 'down' : 'up' }),
  // Thrown upwards, the bow leaving the string.
  flicked: () => ({ stroke: 'up', sign: 'flick' }),
};

const bowed = (grid: Grid, strokes: Strokes): Grid => ({
  ...grid,
  events: grid.events.map((event, place) => ({
    ...event,
    notes: event.notes.map((note) => ({ ...note, marks: { ...note.marks, ...STROKE_MARKS[strokes](place) } })),
  })),
});

/** A note without what was written of its articulation. */
const bare = ({ articulation: _, slur: __, ...note }: GridNote): GridNote => note;

/** Every note short, released at once: written at its full value under a dot, as print has it, and sounding for half of it. */
export const staccatoGrid = (grid: Grid): Grid => ({
  ...grid,
  events: grid.events.map(
    (event): GridEvent => ({ ...event, notes: event.notes.map((note) => ({ ...bare(note), articulation: 'staccato' })) }),
  ),
});

/** Every note connected to the next under one slur. */
export const legatoGrid = (grid: Grid): Grid => {
  const last = grid.events.length - 1;
  return {
    ...grid,
    events: grid.events.map((event, k) => ({
      ...event,
      notes: event.notes.map((note, n) => ({
        ...bare(note),
        ...(n === 0 && last > 0 ? { slur: k === 0 ? ('start' as const) : k === last ? ('end' as const) : undefined } : {}),
      })),
    })),
  };
};

const judged = (articulation: NonNullable<Drill['judging']['articulation']>) => ({ judging: { leftOut: [], articulation } });

/** Short notes with quick release, and connected ones. */
export const TOUCH: Method<z.infer<typeof Parameters>> = {
  id: 'touch',
  name: 'Short and connected',
  about: 'Short notes, let go at once, teach the release; connected ones the passing over. Each shows what the other hides.',
  category: 'even',
  stage: 'touch',
  needs: 'length',
  parameters: Parameters,
  fields: [
    wordField('how', 'Play', { both: 'short, then connected', staccato: 'short', legato: 'connected' }),
    wordField('strokes', 'Short notes by', {
      written: 'strokes as written',
      alternate: 'down and up in turn',
      down: 'down-bows',
      up: 'up-bows',
      flicked: 'flicked up-bows',
    }),
  ],
  fieldNeeds: { strokes: 'bow' },
  drills: (grid, { how, strokes }) => [
    ...(how !== 'legato'
      ? [
          makeDrill(
            'touch',
            { how: 'staccato', strokes },
            bowed(staccatoGrid(grid), strokes),
            { how: 'short' },
            judged('short'),
          ),
        ]
      : []),
    ...(how !== 'staccato'
      ? [makeDrill('touch', { how: 'legato', strokes }, legatoGrid(grid), { how: 'connected' }, judged('connected'))]
      : []),
  ],
};
