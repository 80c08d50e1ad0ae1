import type { Chance } from '@isochron/core/analysis';

/** Even between two numbers. */
export const between = ({ uniform }: Chance, low: number, high: number): number => low + (high - low) * uniform();

/** Even between two numbers in their logarithms. */
export const logBetween = (random: Chance, low: number, high: number): number =>
  Math.exp(between(random, Math.log(low), Math.log(high)));

/** One of a list, each as likely as the others. */
export const pick = <T>({ uniform }: Chance, list: readonly T[]): T => list[Math.floor(uniform() * list.length)] as T;
