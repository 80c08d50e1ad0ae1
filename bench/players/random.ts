import { randomNormal } from 'd3-random';

/** Chance of its own for the players: neighbouring seeds share nothing, since rows of them are laid beside one another. */
export interface Chance {
  uniform: () => number;
  normal: () => number;
}

/** Mulberry32 (Tommy Ettinger, public domain) over a seed that is mixed by the finaliser of MurmurHash3. */
export const chanceOf = (...seeds: readonly number[]): Chance => {
  let state = 0;
  for (const seed of seeds) {
    let mixed = (state ^ Math.imul(Math.floor(seed) + 0x9e3779b9, 0x85ebca6b)) >>> 0;
    mixed = Math.imul(mixed ^ (mixed >>> 16), 0x85ebca6b) >>> 0;
    mixed = Math.imul(mixed ^ (mixed >>> 13), 0xc2b2ae35) >>> 0;
    state = (mixed ^ (mixed >>> 16)) >>> 0;
  }
  const uniform = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
  return { uniform, normal: randomNormal.source(uniform)(0, 1) };
};
