import { hasEveryWord } from '@isochron/core/material';

/** A drill as it is listed. */
export interface ListedDrill {
  /** Its place among all, from 0. */
  index: number;
  name: string;
}

/** The drills whose number is the one that was typed, or whose name has every word of it; all of them where nothing was. */
export const foundDrills = (names: readonly string[], text: string): ListedDrill[] => {
  const matches = hasEveryWord(text);
  const number = /^\d+$/.test(text.trim()) ? Number(text) : null;
  return names
    .map((name, index) => ({ index, name }))
    .filter(({ name, index }) => (number === null ? matches(name) : index + 1 === number));
};
