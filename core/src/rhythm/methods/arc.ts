import { z } from 'zod';
import { numberField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';
import { atLeastBars, tempoPoints } from './tempo-shape';

const Parameters = z.object({
  slowPercent: z.number().int().min(30).max(90).default(60),
  bars: z.number().int().min(4).max(64).default(12),
});

/** Slow, fast, slow in one run, most of the time at the slow end. */
export const ARC: Method<z.infer<typeof Parameters>> = {
  id: 'arc',
  name: 'Arc',
  about: 'Slow, up to tempo and down again in one run, most of it slow: awkward tempos show on the way.',
  category: 'speed',
  stage: 'tempo',
  parameters: Parameters,
  fields: [
    numberField('slowPercent', 'Slow end', [40, 50, 60, 70, 80], (n) => `${n} % of the tempo`),
    numberField('bars', 'At least', [8, 12, 16, 24, 32], (n) => `${n} bars`),
  ],
  drills: (grid, parameters) => {
    const whole = atLeastBars(grid, parameters.bars);
    const slow = parameters.slowPercent / 100;
    const tempo = tempoPoints(whole, [
      [0, slow],
      [0.3, slow],
      [0.5, 1],
      [0.55, 1],
      [0.75, slow],
      [1, slow],
    ]);
    return [
      makeDrill('arc', parameters, whole, { percent: parameters.slowPercent }, { tempo, judging: { leftOut: ['drift'] } }),
    ];
  },
};
