import type Fraction from 'fraction.js';
import { beats, writeBeats } from '../../schema/beats';
import { barStarts } from '../../schema/frame';
import type { EventRole, Grid, GridEvent } from '../../schema/grid';

/** The length of a grid from its first downbeat, in beats. */
export const wholeLength = (grid: Grid): Fraction => barStarts(grid).at(-1) as Fraction;

/** An event moved by so many beats. */
export const moved = (event: GridEvent, by: Fraction): GridEvent => ({ ...event, at: writeBeats(beats(event.at).add(by)) });

/**
 * Grids one after the other, each beginning on the bar line where the one before it ends; the first event of each after the first
 * carries `role`. A pickup of a later grid takes the place of what would sound there.
 */
export const chained = (grids: readonly Grid[], role?: EventRole): Grid => {
  const [first] = grids as readonly [Grid, ...Grid[]];
  let offset = beats(0);
  const events: GridEvent[] = [];
  const meters: Grid['meters'] = [];
  const keys: Grid['keys'] = [];
  let bars = 0;
  grids.forEach((grid, k) => {
    const own = grid.events.map((event) => moved(event, offset));
    const [start] = own as [GridEvent];
    const entry = beats(start.at);
    while (events.length > 0 && beats((events.at(-1) as GridEvent).at).compare(entry) >= 0) events.pop();
    const before = events.at(-1);
    if (before) events[events.length - 1] = cutAt(before, entry);
    events.push(k > 0 && role ? { ...start, role } : start, ...own.slice(1));
    for (const [list, changes] of [
      [meters, grid.meters],
      [keys, grid.keys],
    ] as [{ at: string }[], { at: string }[]][])
      for (const change of changes) {
        const at = beats(change.at).add(offset);
        const { at: _, ...said } = change;
        const { at: __, ...last } = list.at(-1) ?? { at: '' };
        if (list.length === 0 || JSON.stringify(last) !== JSON.stringify(said)) list.push({ ...change, at: writeBeats(at) });
      }
    bars += grid.bars;
    offset = offset.add(wholeLength(grid));
  });
  return { ...first, meters, keys, bars, events };
};

/** An event that sounds no longer than to a position. */
export const cutAt = (event: GridEvent, position: Fraction): GridEvent => {
  const room = position.sub(beats(event.at));
  const within = (length: string) => (beats(length).compare(room) > 0 ? writeBeats(room) : length);
  return {
    ...event,
    length: within(event.length),
    notes: event.notes.map((note) => ({ ...note, length: within(note.length) })),
  };
};

/** A grid so many times in a row. */
export const looped = (grid: Grid, times: number): Grid =>
  times === 1 ? grid : chained(Array.from({ length: times }, () => grid));
