import { cutBars, cutGrid } from '../rhythm/reshape/cut';
import type { Drill } from '../schema/grid';
import type { BrokenOff } from '../schema/measures';
import type { AfterBreak } from '../schema/settings';

/** Fewer notes are not worth a repetition of their own. */
const MIN_NOTES = 2;

/**
 * What is played after a repetition that broke off: from a bar before the break to the end, or the bar in which it broke alone. Null where it is
 * begun from the beginning: because the player wants that, because the break lies in the first bars, or because the drill cannot be cut.
 */
export const retakeOf = (drill: Drill, { bar }: Pick<BrokenOff, 'bar'>, how: AfterBreak): Drill | null => {
  const { tempo, playAlong, listen, judging, grid } = drill;
  if (how === 'beginning' || tempo || playAlong || listen || judging.ownTempo) return null;
  const from = how === 'bar' ? bar - 1 : bar - 2;
  const to = how === 'bar' ? bar : grid.bars;
  if (from <= 0 && to >= grid.bars) return null;
  const span = cutBars(grid, Math.max(0, from), to);
  if (!span || span.to - span.from < MIN_NOTES || span.to - span.from >= grid.events.length) return null;
  const { until: _, notches: __, ...rest } = drill;
  return { ...rest, grid: cutGrid(grid, span.from, span.to), repetitionKind: 'retake' };
};

/** The same place is played again so often before it is begun from the beginning (our choice). */
export const MAX_RETAKES = 3;
