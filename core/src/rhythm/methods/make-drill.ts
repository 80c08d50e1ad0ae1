import type { Drill, Grid } from '../../schema/grid';
import type { Reason, ReasonCatalogue, ReasonValues } from '../../schema/reason';
import { PLAIN_CLICK } from './plain-click';

/** A method whose drills have a name in the catalogue of sentences. */
type TitledMethod = keyof ReasonCatalogue extends infer Code ? (Code extends `${infer Id}-title` ? Id : never) : never;

/** What the title of a method's drills is made of, which may be left out where that is nothing, and what else is said of a drill. */
type TitleAndParts<Id extends TitledMethod, Values = ReasonValues<`${Id}-title`>> =
  Record<never, never> extends Values ? [values?: Values, parts?: Partial<Drill>] : [values: Values, parts?: Partial<Drill>];

/**
 * A drill of a method: clicked on every beat, judged by every check, unless `parts` say otherwise.
 *
 * @param values name it among its like: what the title of the method's drills is made of
 */
export const makeDrill = <Id extends TitledMethod>(
  id: Id,
  parameters: Drill['method']['parameters'],
  grid: Grid,
  ...[values, parts]: TitleAndParts<Id>
): Drill => ({
  method: { id, parameters },
  grid,
  click: PLAIN_CLICK,
  judging: { leftOut: [] },
  titles: [{ code: `${id}-title`, values: { ...(values as Reason['values'] | undefined) } }],
  purpose: { code: id, values: {} },
  ...parts,
});
