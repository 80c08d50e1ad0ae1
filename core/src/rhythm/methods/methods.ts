import type { Drill, Grid } from '../../schema/grid';
import type { Method } from './method';
import { REPEAT_EACH } from './repeat-each';
import { STRAIGHT } from './straight';

/** Every practice method. To add one: write its file, add it here; the Bench then offers it. */
// biome-ignore lint/suspicious/noExplicitAny: each method reads its own parameters.
export const METHODS: readonly Method<any>[] = [STRAIGHT, REPEAT_EACH];

/** A method by its id; straight where the id is unknown. */
export const methodOf = (id: string): Method => METHODS.find((method) => method.id === id) ?? (STRAIGHT as unknown as Method);

/** The drills that a method makes of a grid. Parameters that cannot be read take their defaults. */
export const drillsOf = (grid: Grid, methodId: string, parameters: unknown = {}): Drill[] => {
  const method = methodOf(methodId);
  const read = method.parameters.safeParse(parameters);
  return method.drills(grid, read.success ? read.data : method.parameters.parse({}));
};
