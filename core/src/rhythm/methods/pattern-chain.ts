import { range } from 'd3-array';
import { z } from 'zod';
import type { Grid } from '../../schema/grid';
import { chained, looped } from '../reshape/chain';
import { cutBars, cutGrid } from '../reshape/cut';
import { atTheTurn } from './at-the-turn';
import { numberField, wordField, yesNoField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  /** Bars of one pattern. */
  bars: z.number().int().min(1).max(8).default(1),
  times: z.number().int().min(1).max(8).default(2),
  order: z.enum(['forward', 'backward', 'mixed']).default('forward'),
  /** Whether the last one leads back into the first: that join too is measured. */
  returns: z.boolean().default(true),
  /** How each pattern after the first is begun: as it is written, by the other hand throughout, or with another finger on its first note. */
  turn: z.enum(['written', 'hand', 'finger']).default('written'),
});

/** The order of so many patterns: mixed is the first, one of the middle, the second, and so on, so that no two neighbours stay together. */
const orderOf = (count: number, order: z.infer<typeof Parameters>['order']): number[] => {
  if (order === 'backward') return range(count - 1, -1, -1);
  const half = Math.ceil(count / 2);
  return order === 'forward' ? range(count) : range(count).map((k) => (k % 2 === 0 ? k / 2 : half + (k - 1) / 2));
};

/** Patterns back to back, each a stated number of times; the joins between them are measured by themselves. */
export const PATTERN_CHAIN: Method<z.infer<typeof Parameters>> = {
  id: 'pattern-chain',
  name: 'Chain of patterns',
  about: 'Each bar a number of times and straight into the next: what is practised are the joins.',
  category: 'sure',
  stage: 'anew',
  parameters: Parameters,
  fields: [
    numberField('bars', 'A pattern is', [1, 2, 4], (n) => (n === 1 ? 'one bar' : `${n} bars`)),
    numberField('times', 'Each', [1, 2, 3, 4, 8], (n) => (n === 1 ? 'once' : `${n} times`)),
    wordField('order', 'In order', { forward: 'as they stand', backward: 'from the last', mixed: 'mixed' }),
    yesNoField('returns', 'Back to the first'),
    wordField('turn', 'At each turn', { written: 'as written', hand: 'the other hand', finger: 'another finger' }),
  ],
  fieldNeeds: { turn: 'marked' },
  drills: (grid, parameters) => {
    const { bars, times, order, returns, turn } = parameters;
    const patterns = Array.from({ length: Math.ceil(grid.bars / bars) }, (_, k) => cutBars(grid, k * bars, (k + 1) * bars))
      .filter((stretch) => stretch !== null)
      .map(({ from, to }) => cutGrid(grid, from, to));
    const inOrder = orderOf(patterns.length, order).map((k) => patterns[k] as Grid);
    const pieces = inOrder.map((pattern) => looped(pattern, times));
    // Once more, so that the way back has something to lead to.
    const last = returns && inOrder.length > 1 ? inOrder.slice(0, 1) : [];
    const turned = [...pieces, ...last].map((piece, k) => (k === 0 ? piece : atTheTurn(piece, turn, k)));
    return [makeDrill('pattern-chain', parameters, chained(turned, 'join'), { patterns: pieces.length, times })];
  },
};
