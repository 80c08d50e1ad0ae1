import type { PassageSummary } from '../schema/library';

type Section = PassageSummary['sections'][number];

const lengthOf = ({ fromBar, toBar }: Section): number => toBar - fromBar + 1;

/** The shortest section that a bar lies in, shorter than the whole; null where there is none. Bars count from 1. */
export const shortestSectionWith = (
  bar: number,
  { sections, bars }: Pick<PassageSummary, 'sections' | 'bars'>,
): Section | null =>
  sections
    .filter((one) => one.fromBar <= bar && bar <= one.toBar && lengthOf(one) < bars)
    .sort((a, b) => lengthOf(a) - lengthOf(b))[0] ?? null;
