import { positionsOf } from '../rhythm/grid-shape';
import { barAt, barStarts } from '../schema/frame';
import type { Grid } from '../schema/grid';
import type { Repetition } from '../schema/take';
import { atLeastProbability } from '../stats/interval-estimate';

/** The bar in which the playing breaks off or stumbles again and again. */
export interface BreakingPlace {
  /** As it is played, from 1. */
  bar: number;
  /** In how many repetitions it broke there, of how many that came so far. */
  breaks: number;
  reached: number;
  /** The first note that it broke at there, from 0. */
  note: number;
}

/** The chance of a false alarm in a take. */
const FALSE_ALARM = 0.05;
/** Fewer breaks at one place are no habit (our choice). */
const MIN_BREAKS = 2;

/** The note at which a repetition broke, from 0; null where it did not. Stopping by hand says nothing of the place. */
const brokeAt = ({ measures: { brokenOff, playedAs } }: Pick<Repetition, 'measures'>): number | null => {
  if (brokenOff) return brokenOff.byHand ? null : brokenOff.note;
  return playedAs?.kind === 'stumble' ? (playedAs.note ?? null) : null;
};

/** How many notes of a repetition were come to. */
const cameTo = ({ notes, measures }: Pick<Repetition, 'notes' | 'measures'>): number =>
  measures.brokenOff ? Math.min(notes.length, measures.brokenOff.note + 1) : notes.length;

/**
 * Where repetitions of one grid break, if not anywhere: the bar with the most breaks, against breaks that come as often at every note that was
 * come to (a binomial test, corrected for how many bars there are). What lies behind a break was not played, and counts for nothing.
 */
export const breakingPlace = (
  grid: Grid,
  repetitions: readonly Pick<Repetition, 'notes' | 'measures' | 'verdict'>[],
): BreakingPlace | null => {
  const told = repetitions.filter(({ verdict, measures }) => verdict.outcome !== 'not-judged' || measures.brokenOff);
  const at = told.flatMap((one) => brokeAt(one) ?? []);
  if (at.length < MIN_BREAKS) return null;
  const lines = barStarts(grid);
  const bars = positionsOf(grid).map((position) => barAt(lines, position));
  const played = new Map<number, { notes: number; breaks: number; reached: number }>();
  for (const one of told) {
    const own = bars.slice(0, cameTo(one));
    const broke = brokeAt(one);
    for (const bar of new Set(own)) {
      const before = played.get(bar) ?? { notes: 0, breaks: 0, reached: 0 };
      played.set(bar, {
        notes: before.notes + own.filter((of) => of === bar).length,
        breaks: before.breaks + (broke !== null && bars[broke] === bar ? 1 : 0),
        reached: before.reached + 1,
      });
    }
  }
  const all = [...played.values()].reduce((sum, { notes }) => sum + notes, 0);
  const [worst] = [...played].sort(([, a], [, b]) => b.breaks - a.breaks || a.notes - b.notes);
  if (!worst || worst[1].breaks < MIN_BREAKS) return null;
  const [bar, { breaks, notes, reached }] = worst;
  if (atLeastProbability(breaks, at.length, notes / all) * played.size >= FALSE_ALARM) return null;
  return { bar, breaks, reached, note: Math.min(...at.filter((note) => bars[note] === bar)) };
};
