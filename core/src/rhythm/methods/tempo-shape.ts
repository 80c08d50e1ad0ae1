import type { Grid } from '../../schema/grid';
import { looped, wholeLength } from '../reshape/chain';

/** A grid round and round until there are at least so many bars, so that a tempo has time to move. */
export const atLeastBars = (grid: Grid, bars: number): Grid => looped(grid, Math.max(1, Math.ceil(bars / grid.bars)));

/** Points of a drill's tempo at shares of its whole length. */
export const tempoPoints = (grid: Grid, points: readonly (readonly [place: number, share: number])[]) => {
  const length = wholeLength(grid).valueOf();
  return points.map(([place, share]) => ({ beat: place * length, share }));
};
