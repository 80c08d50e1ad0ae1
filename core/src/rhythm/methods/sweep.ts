import { z } from 'zod';
import { numberField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';
import { atLeastBars, tempoPoints } from './tempo-shape';

const Parameters = z.object({
  fromPercent: z.number().int().min(30).max(90).default(50),
  bars: z.number().int().min(4).max(64).default(16),
});

/** A sweep that a strategy asks for reaches over these shares of the tempo at work: beyond it as well, to find the break. */
export const STRATEGY_SWEEP_SHARES = [0.6, 1.5] as const;

/** From half speed up to the tempo in one run, until evenness breaks. */
export const SWEEP: Method<z.infer<typeof Parameters>> = {
  id: 'sweep',
  name: 'Sweep',
  about: 'From half speed upward in one run: where evenness breaks is where to work.',
  category: 'speed',
  stage: 'tempo',
  parameters: Parameters,
  fields: [
    numberField('fromPercent', 'From', [40, 50, 60, 70, 80], (n) => `${n} % of the tempo`),
    numberField('bars', 'At least', [8, 16, 24, 32, 48], (n) => `${n} bars`),
  ],
  drills: (grid, parameters) => {
    const whole = atLeastBars(grid, parameters.bars);
    const tempo = tempoPoints(whole, [
      [0, parameters.fromPercent / 100],
      [1, 1],
    ]);
    return [
      makeDrill('sweep', parameters, whole, { percent: parameters.fromPercent }, { tempo, judging: { leftOut: ['drift'] } }),
    ];
  },
};
