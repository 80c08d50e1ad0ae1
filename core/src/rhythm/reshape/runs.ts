import type Fraction from 'fraction.js';
import { beats } from '../../schema/beats';
import type { Grid } from '../../schema/grid';
import { lineOf } from '../line';

/** A stretch of a line's events that follow one another at equal distances: `from` up to but without `to`, `each` beats apart. */
export interface Run {
  from: number;
  to: number;
  /** Beats from each of its events to the next, as an exact fraction. */
  each: string;
}

/**
 * The even runs of a line, in order: events whose distances to the next are equal. The last one, and one before a
 * longer note's end, belong to the run that leads to them as its landing and are not in it; every connection of even notes is.
 * Runs of fewer than two events are left out.
 */
export const evenRuns = (at: readonly Fraction[]): Run[] => {
  const gaps = at.slice(1).map((position, k) => position.sub(at[k] as (typeof at)[number]));
  const runs: Run[] = [];
  for (let from = 0; from < gaps.length; ) {
    const each = gaps[from] as (typeof gaps)[number];
    let to = from + 1;
    while (to < gaps.length && (gaps[to] as typeof each).equals(each)) to += 1;
    if (to - from >= 2) runs.push({ from, to, each: each.toFraction() });
    from = to;
  }
  return runs;
};

/** The distance from note to note that the leading voice has most often, in beats: its usual value. 1 where there is one note only. */
export const usualStep = (grid: Pick<Grid, 'events'>): string => {
  const counts = new Map<string, number>();
  const events = lineOf(grid).map((k) => grid.events[k] as (typeof grid.events)[number]);
  events.slice(1).forEach((event, k) => {
    const gap = beats(event.at)
      .sub(beats((events[k] as (typeof events)[number]).at))
      .toFraction();
    counts.set(gap, (counts.get(gap) ?? 0) + 1);
  });
  return [...counts].reduce((best, one) => (one[1] > best[1] ? one : best), ['1', 0] as [string, number])[0];
};
