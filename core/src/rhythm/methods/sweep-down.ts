import { z } from 'zod';
import { numberField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';
import { atLeastBars, tempoPoints } from './tempo-shape';

const Parameters = z.object({
  toPercent: z.number().int().min(30).max(90).default(50),
  bars: z.number().int().min(4).max(64).default(16),
});

/** From the tempo downward in one run, to find how slow a rebound or a bouncing stroke still works. */
export const SWEEP_DOWN: Method<z.infer<typeof Parameters>> = {
  id: 'sweep-down',
  name: 'Sweep down',
  about: 'From fast to slow in one run: how slow does the rebound, or the bouncing bow, still work?',
  category: 'speed',
  stage: 'tempo',
  needs: 'rebound',
  parameters: Parameters,
  fields: [
    numberField('toPercent', 'Down to', [40, 50, 60, 70, 80], (n) => `${n} % of the tempo`),
    numberField('bars', 'At least', [8, 16, 24, 32, 48], (n) => `${n} bars`),
  ],
  drills: (grid, parameters) => {
    const whole = atLeastBars(grid, parameters.bars);
    const tempo = tempoPoints(whole, [
      [0, 1],
      [1, parameters.toPercent / 100],
    ]);
    return [
      makeDrill('sweep-down', parameters, whole, { percent: parameters.toPercent }, { tempo, judging: { leftOut: ['drift'] } }),
    ];
  },
};
