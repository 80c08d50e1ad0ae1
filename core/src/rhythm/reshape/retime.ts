import type Fraction from 'fraction.js';
import { beats, writeBeats } from '../../schema/beats';
import type { Grid, GridEvent } from '../../schema/grid';
import { fillBars } from './fill-bars';

/** The event at or before a position: the last one whose start is not after it; 0 before the first. */
const eventAt = (starts: readonly Fraction[], position: Fraction): number => {
  let low = 0;
  let high = starts.length - 1;
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if ((starts[middle] as Fraction).compare(position) <= 0) low = middle;
    else high = middle - 1;
  }
  return low;
};

/**
 * A grid played in another rhythm: event `line[k]` begins at `to[k]` (exact beats, ascending), and what lies between two of them is
 * stretched evenly between their new places, so that held notes and other voices keep their relation to those of the line.
 * The bars are filled anew under the first meter, unless the end stays where it was.
 *
 * @param line the events whose places are given; all, where it is left out
 */
export const retimed = (grid: Grid, to: readonly Fraction[], line: readonly number[] = grid.events.map((_, k) => k)): Grid => {
  const at = grid.events.map((event) => beats(event.at));
  const from = line.map((k) => at[k] as Fraction);
  const moved = (position: Fraction): Fraction => {
    const k = eventAt(from, position);
    const start = from[k] as Fraction;
    // What comes before the line goes with its first note.
    if (position.compare(start) < 0) return position.add((to[0] as Fraction).sub(start));
    const next = from[k + 1];
    const offset = position.sub(start);
    const scale = next ? (to[k + 1] as Fraction).sub(to[k] as Fraction).div(next.sub(start)) : beats(1);
    return (to[k] as Fraction).add(offset.mul(scale));
  };
  const events = grid.events.map((event, k): GridEvent => {
    const start = at[k] as Fraction;
    const place = moved(start);
    const lengthOf = (length: string) => writeBeats(moved(start.add(beats(length))).sub(place));
    return {
      ...event,
      at: writeBeats(place),
      length: lengthOf(event.length),
      notes: event.notes.map((note) => ({ ...note, length: lengthOf(note.length) })),
    };
  });
  const stays = (from.at(-1) as Fraction).equals(to.at(-1) as Fraction) && (from[0] as Fraction).equals(to[0] as Fraction);
  if (stays) return { ...grid, events };
  const [meter] = grid.meters;
  const [key] = grid.keys;
  return fillBars({ ...grid, meters: meter ? [{ ...meter, at: '0' }] : grid.meters, keys: key ? [key] : grid.keys }, events);
};
