import { randomLcg, randomNormal } from 'd3-random';

/** Reproducible chance: the same seed gives the same numbers. */
export interface Chance {
  /** Even between 0 and 1. */
  uniform: () => number;
  /** Normal with mean 0 and standard deviation 1. */
  normal: () => number;
}

/** Chance from a whole-number seed. */
export const chance = (seed: number): Chance => {
  const mixed = Math.imul(seed ^ (seed >>> 16), 0x45d9f3b) >>> 0;
  const uniform = randomLcg(mixed / 2 ** 32);
  // The first draws of neighbouring seeds resemble one another.
  for (let k = 0; k < 8; k += 1) uniform();
  return { uniform, normal: randomNormal.source(uniform)(0, 1) };
};
