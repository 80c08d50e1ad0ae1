import { z } from 'zod';
import { beats } from '../../schema/beats';
import { barStarts } from '../../schema/frame';
import type { Grid } from '../../schema/grid';
import { cutBars, cutGrid } from '../reshape/cut';
import { wordField, yesNoField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  size: z.enum(['beat', '2 beats', 'bar', '2 bars', '4 bars', '8 bars', '16 bars']).default('bar'),
  /** Whether pieces of double the size follow, up to the whole. */
  grow: z.boolean().default(true),
});

/** Stretches of events, `from` up to but without `to`. */
type Stretch = { from: number; to: number };

const SIZES = ['beat', '2 beats', 'bar', '2 bars', '4 bars', '8 bars', '16 bars'] as const;
type Size = (typeof SIZES)[number];

/** The stretches of so many beats. */
const beatStretches = (grid: Grid, count: number): Stretch[] => {
  const at = grid.events.map((event) => beats(event.at));
  const total = (barStarts(grid).at(-1) ?? beats(0)).valueOf();
  const first = Math.min(0, Math.floor((at[0] ?? beats(0)).valueOf()));
  const stretches: Stretch[] = [];
  for (let start = first; start < total; start += count) {
    const from = at.findIndex((one) => one.compare(start) >= 0);
    const to = at.findIndex((one) => one.compare(start + count) >= 0);
    if (from >= 0 && from !== to) stretches.push({ from, to: to < 0 ? at.length : to });
  }
  return stretches;
};

const barStretches = (grid: Grid, count: number): Stretch[] =>
  Array.from({ length: Math.ceil(grid.bars / count) }, (_, k) => cutBars(grid, k * count, (k + 1) * count)).filter(
    (stretch) => stretch !== null,
  );

const stretchesOf = (grid: Grid, size: Size): Stretch[] =>
  size === 'beat'
    ? beatStretches(grid, 1)
    : size === '2 beats'
      ? beatStretches(grid, 2)
      : barStretches(grid, Number.parseInt(size, 10) || 1);

/** Pieces that each end on the first note of the next; then pieces of double the size, up to the whole. */
export const CHUNKS: Method<z.infer<typeof Parameters>> = {
  id: 'chunks',
  name: 'Chunks',
  about:
    'A small piece up to the next downbeat, then its neighbour, then pieces twice as long: each is brought up to tempo by itself.',
  category: 'learn',
  stage: 'notes',
  parameters: Parameters,
  fields: [
    wordField(
      'size',
      'Pieces of',
      Object.fromEntries(SIZES.map((size) => [size, size === 'beat' ? 'one beat' : size === 'bar' ? 'one bar' : size])),
    ),
    yesNoField('grow', 'Then twice as long'),
  ],
  drills: (grid, parameters) => {
    const sizes = SIZES.slice(SIZES.indexOf(parameters.size));
    const rounds = (parameters.grow ? sizes : sizes.slice(0, 1)).map((size) => ({ size, stretches: stretchesOf(grid, size) }));
    // Pieces that are the whole come once.
    const used = rounds.filter((_round, k) => k === 0 || (rounds[k - 1]?.stretches.length ?? 0) > 1);
    return used.flatMap(({ size, stretches }) =>
      stretches
        // One that has its landing note alone is heard at the end of the piece before.
        .filter(({ from }) => stretches.length === 1 || from < grid.events.length - 1)
        .map(({ from, to }, k, all) =>
          makeDrill(
            'chunks',
            { ...parameters, size },
            // It ends on the next downbeat, so that what joins it to the next is in it.
            cutGrid(grid, from, Math.min(grid.events.length, to + 1)),
            { number: k + 1, of: all.length, size },
            { until: 'goal' },
          ),
        ),
    );
  },
};
