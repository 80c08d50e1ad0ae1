import { clefChanges } from '@isochron/core/material';
import type { Clef, Exact, Grid } from '@isochron/core/schema';
import { onceForEach } from '../app/once-for-each';

type Change = ReturnType<typeof clefChanges>[number];

const changesOn = (grid: Grid, staff: number): Change[] =>
  clefChanges(
    grid.events.flatMap(({ at, notes }) => notes.map((note) => ({ at, staff: note.staff, printed: note.printed }))),
    grid.staves[staff - 1]?.clef ?? 'treble',
    staff,
  );

/** Where the clef of a staff changes, in order. */
export const clefChangesOn = (grid: Grid, staff: number): readonly Change[] => everyChange(grid)[staff - 1] ?? [];

// A long passage is drawn system by system: its clefs are worked out once.
const everyChange = onceForEach((grid: Grid) => grid.staves.map((_, k) => changesOn(grid, k + 1)));
const placesOfChanges = onceForEach(
  (grid: Grid) =>
    new Set(
      everyChange(grid)
        .flat()
        .map(({ at }) => at.toFraction()),
    ),
);

/** The clef that holds on a staff at a place. */
export const clefAt = (grid: Grid, staff: number, at: Exact): Clef =>
  clefChangesOn(grid, staff).findLast((change) => change.at.lte(at))?.clef ?? grid.staves[staff - 1]?.clef ?? 'treble';

/** Whether the clef of any staff changes at a place. */
export const hasClefChange = (grid: Grid, at: Exact): boolean => placesOfChanges(grid).has(at.toFraction());

/** How the package names clefs. */
export const clefCode = (clef: Clef): string => (clef === 'baritone' ? 'baritone-c' : clef);

/** What the smaller sign of a change takes before its note or its bar line, in pixels. */
export const CLEF_PX = 20;
