import type Fraction from 'fraction.js';
import { beats } from '../../schema/beats';
import type { Grid } from '../../schema/grid';
import { retimed } from '../reshape/retime';
import { evenRuns } from '../reshape/runs';

/** A rhythm for groups of notes: how long each is against the others, and how many notes' time the group takes. */
export interface Cell {
  weights: readonly number[];
  /** Notes' lengths that the group takes; as many as it has notes where it keeps its time. */
  spans: number;
}

/**
 * The even runs of a grid in the rhythm of a cell, over and over from each run's first note; all else keeps its length. A group
 * that a run breaks off ends as it was written.
 */
export const inCells = (grid: Grid, { weights, spans }: Cell): Grid => {
  const at = grid.events.map((event) => beats(event.at));
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const runs = evenRuns(grid);
  const to: Fraction[] = [];
  let late = beats(0);
  for (let k = 0; k < at.length; ) {
    const run = runs.find(({ from }) => from === k);
    if (!run) {
      to.push((at[k] as Fraction).add(late));
      k += 1;
      continue;
    }
    const each = beats(run.each);
    while (k + weights.length <= run.to) {
      const start = (at[k] as Fraction).add(late);
      let inside = 0;
      for (const weight of weights) {
        to.push(start.add(each.mul(spans).mul(inside).div(total)));
        inside += weight;
      }
      late = late.add(each.mul(spans - weights.length));
      k += weights.length;
    }
    for (; k < run.to; k += 1) to.push((at[k] as Fraction).add(late));
  }
  return retimed(grid, to);
};
