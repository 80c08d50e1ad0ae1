import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import type { Grid, GridEvent } from '../../schema/grid';
import { placesIn } from '../metric';
import { cutBars, cutGrid } from '../reshape/cut';
import { endOf } from '../reshape/fill-bars';
import { numberField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({ bars: z.number().int().min(1).max(8).default(1) });

/** A piece from event `from` to the end, held for a bar on the first note of what is known already, so that downbeats stay downbeats. */
const withStop = (grid: Grid, from: number, pivot: number): Grid => {
  const piece = cutGrid(grid, from, grid.events.length);
  const stop = piece.events[pivot - from] as GridEvent;
  const at = beats(stop.at);
  const bar = placesIn(piece)(at).bar;
  const later = (position: string) => (beats(position).compare(at) > 0 ? writeBeats(beats(position).add(bar)) : position);
  const sounding = (event: GridEvent): GridEvent => ({
    ...event,
    notes: event.notes.map((note) => ({ ...note, length: writeBeats(beats(note.length).add(bar)) })),
  });
  const changesLater = <Change extends { at: string }>(changes: readonly Change[]): Change[] =>
    changes.map((change) => ({ ...change, at: later(change.at) }));
  return {
    ...piece,
    bars: piece.bars + 1,
    meters: changesLater(piece.meters),
    keys: changesLater(piece.keys),
    events: piece.events.map((event) => {
      if (event === stop) return { ...sounding(event), length: writeBeats(beats(event.length).add(bar)), role: 'pivot' };
      const reachesOver = beats(event.at).compare(at) < 0 && endOf(event).compare(at) > 0;
      return { ...(reachesOver ? sounding(event) : event), at: later(event.at) };
    }),
  };
};

/** The end first, then what comes before it: joined with a stop on the note between, then without. */
export const FROM_THE_END: Method<z.infer<typeof Parameters>> = {
  id: 'from-the-end',
  name: 'From the end',
  about:
    'The last bar first, then the one before it, joined with a stop and then without: one always plays towards what one knows.',
  category: 'learn',
  stage: 'notes',
  parameters: Parameters,
  fields: [numberField('bars', 'Pieces of', [1, 2, 4], (n) => (n === 1 ? 'one bar' : `${n} bars`))],
  drills: (grid, parameters) => {
    const { bars } = parameters;
    const starts = Array.from({ length: Math.ceil(grid.bars / bars) }, (_, k) => cutBars(grid, k * bars, (k + 1) * bars)?.from)
      .filter((from) => from !== undefined)
      .reverse();
    // A last piece of one note is joined to the one before it at once.
    const known = starts.length > 1 && starts[0] === grid.events.length - 1 ? starts.slice(1) : starts;
    return known.flatMap((from, k) => {
      const smooth = (notches: number) =>
        makeDrill(
          'from-the-end',
          parameters,
          cutGrid(grid, from, grid.events.length),
          { pieces: k + 1, joined: 'straight on' },
          { notches, until: 'goal' },
        );
      const pivot = known[k - 1];
      if (pivot === undefined) return [smooth(0)];
      const stopped = makeDrill(
        'from-the-end',
        parameters,
        withStop(grid, from, pivot),
        { pieces: k + 1, joined: 'with a stop' },
        { notches: -2 },
      );
      return [stopped, smooth(2)];
    });
  },
};
