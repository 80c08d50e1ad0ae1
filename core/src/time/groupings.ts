import type Fraction from 'fraction.js';
import { meterBeats } from '../schema/frame';
import type { Grid } from '../schema/grid';

/** All the ways to fill so many units with twos and threes, in their order: 5 is 2 + 3 and 3 + 2. */
export const groupings = (units: number): number[][] => {
  if (units === 0) return [[]];
  return [2, 3].filter((size) => size <= units).flatMap((size) => groupings(units - size).map((rest) => [size, ...rest]));
};

/** How a bar of so many units is usually grouped: by threes where they fill it, else by twos, the odd three at the end. */
export const usualGroups = (units: number): number[] => {
  if (units < 4) return [Math.max(1, units)];
  if (units % 3 === 0) return Array.from({ length: units / 3 }, () => 3);
  const twos = Math.floor(units / 2);
  return Array.from({ length: twos }, (_, k) => (units % 2 === 1 && k === twos - 1 ? 3 : 2));
};

/** Where the groups begin by which the short notes of a bar are beamed, in beats of the grid from its line: felt beats, or twos and threes of an odd meter. */
export const beamStarts = (meter: Grid['meters'][number], beatUnit: string): Fraction[] => {
  const unit = meterBeats({ count: 1, unit: meter.unit }, beatUnit);
  const sizes = meter.unit >= 8 ? usualGroups(meter.count) : Array.from({ length: meter.count }, () => 1);
  return sizes.map((_, k) => unit.mul(sizes.slice(0, k).reduce((sum, one) => sum + one, 0)));
};
