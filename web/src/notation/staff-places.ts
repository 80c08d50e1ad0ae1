import type { Grid } from '@isochron/core/schema';
import { markedStaves, stepsBeyond } from './staff-reach';
import { hasChordSymbols, hasSyllables, WORD_ROW } from './word-rows';

const STEP_PX = 5;
/** The top of the first staff, and from one to the next, where notes stay near their lines; the package has its lines 40 px lower. */
const FIRST_TOP = 12;
const STAFF_HEIGHT = 104;
/** So many steps above the first staff, between two, and below the last one nothing is in the way; each further one takes its room. */
const FREE_ABOVE = 7;
const FREE_BETWEEN = 9;
const FREE_BELOW = 6;
const MARKS_HEIGHT = 60;
/** Each further row of what is written beside notes. */
export const MARK_ROW = 18;

const beyond = (steps: number, free: number): number => STEP_PX * Math.max(0, steps - free);

/** What the row of chord symbols takes over all, in pixels. */
export const chordRow = (grid: Grid): number => (hasChordSymbols(grid) ? WORD_ROW : 0);

const syllableRow = (grid: Grid, staff: number): number => (hasSyllables(grid, staff) ? WORD_ROW : 0);

/** The tops of a grid's staves, in pixels: high and low notes push them apart. */
export const staffTops = (grid: Grid): number[] => {
  const tops: number[] = [];
  let below = 0;
  for (const k of grid.staves.keys()) {
    const reach = stepsBeyond(grid, k + 1);
    const last = tops.at(-1);
    tops.push(
      last === undefined
        ? FIRST_TOP + chordRow(grid) + beyond(reach.above, FREE_ABOVE)
        : last + STAFF_HEIGHT + syllableRow(grid, k) + beyond(below + reach.above, FREE_BETWEEN),
    );
    below = reach.below;
  }
  return tops;
};

/** How tall the notation of a grid is, in pixels. */
export const notationHeight = (grid: Grid): number =>
  (staffTops(grid).at(-1) ?? 0) -
  FIRST_TOP +
  STAFF_HEIGHT +
  MARKS_HEIGHT +
  syllableRow(grid, grid.staves.length) +
  MARK_ROW * Math.max(0, markedStaves(grid).length - 1) +
  beyond(stepsBeyond(grid, grid.staves.length).below, FREE_BELOW);

/** Where dynamics may stand at the lowest, under each staff. */
export const dynamicsFloors = (grid: Grid): number[] => staffTops(grid).map((top) => top + STAFF_HEIGHT + 4);

/** From the top of a staff as the package has it down to its lowest line, in pixels. */
const LOWEST_LINE_PX = 80;

/** Where the syllables under each staff stand: under its notes, their beams and dynamics. */
export const syllableFloors = (grid: Grid): number[] =>
  staffTops(grid).map(
    (top, k) => top + LOWEST_LINE_PX + STEP_PX * Math.max(FREE_BELOW, stepsBeyond(grid, k + 1).below) + WORD_ROW,
  );
