import type { Skill } from '@isochron/core/schema';

let asked = 0;

/** The seed of the next repetition that is played by itself: another for each, the same ones again after a reload. */
export const nextSeed = ({ seed }: Skill): number => {
  asked += 1;
  return seed * 1000 + asked;
};
