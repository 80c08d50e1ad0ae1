import type { Passage, Section } from '../schema/passage';

/** The numbers that a passage's bars bear on the page, in the order in which they are played: bars that repeat come again. */
export const barNumbersOf = ({
  pageBars,
  bars,
  firstBarNumber,
}: Pick<Passage, 'pageBars' | 'bars' | 'firstBarNumber'>): number[] =>
  pageBars ?? Array.from({ length: bars }, (_, k) => firstBarNumber + k);

/** The same as names: from its second time on, a bar says which time it is. */
export const barNamesOf = (passage: Parameters<typeof barNumbersOf>[0]): (number | string)[] => {
  const times = new Map<number, number>();
  return barNumbersOf(passage).map((number) => {
    const time = (times.get(number) ?? 0) + 1;
    times.set(number, time);
    return time > 1 ? `${number} (${time})` : number;
  });
};

/** A stretch of bars, counted from 1 as they are played, by their numbers on the page. */
export const barRange = (numbers: readonly number[], { fromBar, toBar }: Pick<Section, 'fromBar' | 'toBar'>): string =>
  fromBar === toBar ? `${numbers[fromBar - 1]}` : `${numbers[fromBar - 1]}–${numbers[toBar - 1]}`;
