import { z } from 'zod';
import { chained, looped } from '../reshape/chain';
import { cutBars, cutGrid } from '../reshape/cut';
import { numberField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  /** Bars of one pattern. */
  bars: z.number().int().min(1).max(8).default(1),
  times: z.number().int().min(1).max(8).default(2),
});

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
  ],
  drills: (grid, parameters) => {
    const { bars, times } = parameters;
    const pieces = Array.from({ length: Math.ceil(grid.bars / bars) }, (_, k) => cutBars(grid, k * bars, (k + 1) * bars))
      .filter((stretch) => stretch !== null)
      .map(({ from, to }) => looped(cutGrid(grid, from, to), times));
    return [makeDrill('pattern-chain', parameters, chained(pieces, 'join'), { patterns: pieces.length, times })];
  },
};
