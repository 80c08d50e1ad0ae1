import type { Tolerance } from '../schema/tolerance';

/**
 * Half-width of the tolerance window around a note whose notated interval is given, in ms. Where the gridline itself unsteadiness, because
 * someone played it, by a standard deviation in ms, that is added as independent errors add: by squares.
 */
export const toleranceWindowMs = (tolerance: Tolerance, intervalMs: number, unsteadinessMs = 0): number =>
  Math.hypot(Math.max(tolerance.windowFloorMs, tolerance.windowShare * intervalMs), unsteadinessMs);
