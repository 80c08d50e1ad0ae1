import { HALF_SPEED_CLIMB } from './half-speed-climb';
import type { School } from './school';

/** Every tempo school. To add one: write its file, add it here. */
// biome-ignore lint/suspicious/noExplicitAny: each school keeps its own memory, which only it reads.
export const SCHOOLS: readonly School<any>[] = [HALF_SPEED_CLIMB];

/** A school by its id; the half-speed climb where the id is unknown. */
export const schoolOf = (id: string) => SCHOOLS.find((school) => school.id === id) ?? HALF_SPEED_CLIMB;
