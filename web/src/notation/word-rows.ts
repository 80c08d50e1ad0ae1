import { beats, type Grid, type GridEvent } from '@isochron/core/schema';
import type { StripSystem } from '../strip/strip-layout';
import { type Context, SANS, SERIF } from './ink';

/** A letter is about so wide, and so far two words stand apart at least, in pixels. */
const LETTER_PX = 8;
const GAP_PX = 6;
/** What a row of words takes. */
export const WORD_ROW = 20;

const wordOf = ({ notes }: GridEvent, kind: 'chord' | 'syllable', staff?: number): string | undefined =>
  notes.find((note) => note.printed?.[kind] && (staff === undefined || note.staff === staff))?.printed?.[kind];

/** Whether chord symbols stand over a grid. */
export const hasChordSymbols = ({ events }: Pick<Grid, 'events'>): boolean =>
  events.some((event) => wordOf(event, 'chord') !== undefined);

/** Whether syllables stand under a staff. */
export const hasSyllables = ({ events }: Pick<Grid, 'events'>, staff: number): boolean =>
  events.some((event) => wordOf(event, 'syllable', staff) !== undefined);

/** How far the middles of two neighbours must lie apart so that the words of both have room, in pixels; 0 where one has none. */
export const wordsApartPx = (before: GridEvent, after: GridEvent): number =>
  Math.max(
    ...(['chord', 'syllable'] as const).map((kind) => {
      const [left, right] = [wordOf(before, kind), wordOf(after, kind)];
      return left && right ? (LETTER_PX * (left.length + right.length)) / 2 + GAP_PX : 0;
    }),
  );

/** Chord symbols in a row over all staves, syllables in a row under each staff that has them, each over or under the middle of its note. */
export const drawWords = (
  context: Context,
  { grid, system }: { grid: Grid; system: StripSystem },
  chordY: number,
  syllableYs: readonly number[],
): void => {
  const row = (kind: 'chord' | 'syllable', y: number, staff?: number) => {
    for (const event of grid.events.slice(system.from, system.to)) {
      const word = wordOf(event, kind, staff);
      if (!word) continue;
      const middle = system.beatX(beats(event.at).valueOf());
      context.fillText(word, middle - context.measureText(word).width / 2, y);
    }
  };
  if (hasChordSymbols(grid)) {
    context.setFont(SANS, 14, 'bold');
    row('chord', chordY);
  }
  context.setFont(SERIF, 15);
  for (const [k, y] of syllableYs.entries()) if (hasSyllables(grid, k + 1)) row('syllable', y, k + 1);
};
