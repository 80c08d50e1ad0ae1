import type { Drill, Grid } from '../../schema/grid';
import type { Reason } from '../../schema/reason';
import { PLAIN_CLICK } from './plain-click';

/** A drill of a method: clicked on every beat, judged by every check, unless `parts` say otherwise. `values` name it among its like. */
export const makeDrill = (
  id: string,
  parameters: Drill['method']['parameters'],
  grid: Grid,
  values: Reason['values'] = {},
  parts: Partial<Drill> = {},
): Drill => ({
  method: { id, parameters },
  grid,
  click: PLAIN_CLICK,
  judging: { leftOut: [] },
  titles: [{ code: `${id}-title`, values }],
  purpose: { code: id, values: {} },
  ...parts,
});
