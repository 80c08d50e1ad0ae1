import type { Tolerance } from '../schema/tolerance';

/** Half-width of the tolerance window around a note whose notated interval is given, both in ms. */
export const toleranceWindowMs = (tolerance: Tolerance, intervalMs: number): number =>
  Math.max(tolerance.windowFloorMs, tolerance.windowShare * intervalMs);
