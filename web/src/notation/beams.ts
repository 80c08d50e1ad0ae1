import { beamStarts, meterAt, placesIn } from '@isochron/core/material';
import { barStarts, type Exact, type Grid } from '@isochron/core/schema';
import { Beam, Tuplet } from 'vexflow/bravura';
import type { Drawn } from './drawn-note';
import { barOf, type ScoreSymbol, tupletGroups } from './score';

/** Beams join the short notes of one beat, by the meter of their bar; plain eighths in fours under an even number of quarters. */
export const beamsOf = (drawn: readonly Drawn[], grid: Grid, stemOf: (symbol: ScoreSymbol) => number | null): Beam[] => {
  const lines = barStarts(grid);
  const placeOf = placesIn(grid);
  const groupOf = ({ at }: ScoreSymbol): string => {
    const starts = beamStarts(meterAt(grid, at), grid.beatUnit);
    const { inBar } = placeOf(at);
    return `${barOf(at, lines)}/${starts.findLastIndex((start) => start.lte(inBar))}`;
  };
  /** Whether two groups, each a beat, are half of a bar of quarters. */
  const areHalf = (start: Exact, at: Exact) => {
    const { unit, count } = meterAt(grid, start);
    const { inBar, beat } = placeOf(start);
    return unit === 4 && count % 2 === 0 && inBar.mod(beat.mul(2)).equals(0) && at.equals(start.add(beat));
  };
  const groups: Drawn[][] = [];
  let before = '';
  for (const one of drawn) {
    const { symbol } = one;
    if (symbol.isRest || symbol.value < 8) {
      before = '';
      continue;
    }
    const group = groupOf(symbol);
    if (group === before) (groups.at(-1) as Drawn[]).push(one);
    else groups.push([one]);
    before = group;
  }
  // Two beats of plain eighths are one beam where they fill half a bar.
  const merged: Drawn[][] = [];
  for (const group of groups) {
    const last = merged.at(-1);
    const isEighths = (some: readonly Drawn[]) =>
      some.length === 2 && some.every(({ symbol }) => symbol.value === 8 && !symbol.tuplet && symbol.dots === 0);
    const [start, at] = [last?.[0]?.symbol.at, group[0]?.symbol.at];
    const fillsHalf = start !== undefined && at !== undefined && areHalf(start, at);
    if (last && isEighths(last) && isEighths(group) && fillsHalf) last.push(...group);
    else merged.push([...group]);
  }
  return merged
    .filter((group) => group.length > 1)
    .map(
      (group) =>
        new Beam(
          group.map(({ note }) => note),
          group.every(({ symbol }) => stemOf(symbol) === null),
        ),
    );
};

/** The brackets and numbers of the tuplets of a voice. */
export const tupletsOf = (drawn: readonly Drawn[]): Tuplet[] =>
  tupletGroups(drawn.map(({ symbol }) => symbol)).flatMap(({ from, to, actual, normal }) => {
    const notes = drawn.slice(from, to).map(({ note }) => note);
    if (notes.length < 2) return [];
    const isBeamed = drawn.slice(from, to).every(({ symbol }) => !symbol.isRest && symbol.value >= 8);
    return [new Tuplet(notes, { numNotes: actual, notesOccupied: normal, bracketed: !isBeamed, ratioed: false })];
  });
