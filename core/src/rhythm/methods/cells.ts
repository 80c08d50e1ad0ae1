import type Fraction from 'fraction.js';
import { beats } from '../../schema/beats';
import type { Grid } from '../../schema/grid';
import { lineOf } from '../line';
import { firstBeat, isOn, placesIn } from '../metric';
import { retimed } from '../reshape/retime';
import { evenRuns, usualStep } from '../reshape/runs';

/** A rhythm for a group of notes: how long each is against the others, and how long the group lasts, in beats of the grid. */
export interface Cell {
  weights: readonly number[];
  length: Fraction;
}

/** What groups are made for. */
export interface CellPlace {
  /** How many notes there are: fewer than wanted where the run ends. */
  notes: number;
  /** From note to note as written, and the felt beat; in beats of the grid. */
  each: Fraction;
  beat: Fraction;
}

/** Parts into which a beat is divided without a thought: a felt beat by twos and threes, one of three units by threes. */
const SIMPLE = [1, 2, 3, 4, 6, 8, 12];
const COMPOUND = [1, 3, 6, 12];

/** Whether the notes of a beat come by threes. */
export const isByThrees = (each: Fraction, beat: Fraction): boolean => {
  const perBeat = beat.div(each);
  return perBeat.d === 1n && perBeat.n % 3n === 0n;
};

/** Whether the usual notes of a grid come by threes. */
export const hasThrees = (grid: Grid): boolean => isByThrees(beats(usualStep(grid)), firstBeat(grid));

/** Whether so many units over a length are such parts of the beat, or whole beats. */
export const isCounted = (units: number, length: Fraction, { each, beat }: Pick<CellPlace, 'each' | 'beat'>): boolean => {
  const unit = length.div(units);
  const parts = isByThrees(each, beat) ? COMPOUND : SIMPLE;
  return parts.some((part) => unit.mul(part).equals(beat)) || unit.div(beat).d === 1n;
};

/** The time of so many notes that begin on a beat: their own where that is beats or an even part of one, else the next whole beats. */
export const groupTime = ({ notes, each, beat }: CellPlace): Fraction => {
  const own = each.mul(notes);
  return own.div(beat).d === 1n || beat.div(own).d === 1n ? own : own.div(beat).ceil().mul(beat);
};

/**
 * The even runs of a grid's leading voice in groups of a rhythm, from the first beat of each run on; all else keeps its length. Where groups
 * take another time than they had, what follows the run begins at the same place of a beat as before, so that beats stay beats.
 *
 * @param size how many notes a group has
 * @param cellOf the rhythm of a group, or null where it stays as written
 */
export const inCells = (grid: Grid, size: number, cellOf: (place: CellPlace) => Cell | null): Grid => {
  const line = lineOf(grid);
  const at = line.map((k) => beats(grid.events[k]?.at ?? '0'));
  const placeOf = placesIn(grid);
  const runs = evenRuns(at);
  const to: Fraction[] = [];
  let late = beats(0);
  const asWritten = (until: number) => {
    while (to.length < until) to.push((at[to.length] as Fraction).add(late));
  };
  for (const run of runs) {
    asWritten(run.from);
    const each = beats(run.each);
    const { beat } = placeOf(at[run.from] as Fraction);
    const lateBefore = late;
    let first = run.from;
    while (first < run.to && !isOn(placeOf(at[first] as Fraction))) first += 1;
    asWritten(first === run.to ? run.from : first);
    while (to.length < run.to) {
      const k = to.length;
      const notes = Math.min(size, run.to - k);
      const cell = cellOf({ notes, each, beat });
      if (!cell || cell.weights.length !== notes) {
        asWritten(k + notes);
        continue;
      }
      const total = cell.weights.reduce((sum, weight) => sum + weight, 0);
      const start = (at[k] as Fraction).add(late);
      let inside = 0;
      for (const weight of cell.weights) {
        to.push(start.add(cell.length.mul(inside).div(total)));
        inside += weight;
      }
      late = late.add(cell.length).sub(each.mul(notes));
    }
    const over = late.sub(lateBefore).mod(beat);
    if (!over.equals(0)) late = late.add(over.compare(0) > 0 ? beat.sub(over) : over.neg());
  }
  asWritten(at.length);
  return retimed(grid, to, line);
};
