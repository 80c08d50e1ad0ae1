import { z } from 'zod';
import { beats } from '../../schema/beats';
import { usualStep } from '../reshape/runs';
import { numberField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';
import { staccatoGrid } from './touch';

const Parameters = z.object({ percent: z.number().int().min(30).max(90).default(50) });

/** Slow, every movement fast: only the gaps are longer. */
export const SLOW_QUICK: Method<z.infer<typeof Parameters>> = {
  id: 'slow-quick',
  name: 'Slow tempo, quick fingers',
  about: 'A slow tempo in which every movement is as quick as at full speed: only the waiting in between is longer.',
  category: 'learn',
  stage: 'tempo',
  parameters: Parameters,
  fields: [numberField('percent', 'Of the tempo', [30, 40, 50, 60, 70, 80], (n) => `${n} %`)],
  drills: (grid, parameters) => {
    const perBeat = Math.round(1 / beats(usualStep(grid)).valueOf());
    return [
      makeDrill(
        'slow-quick',
        parameters,
        staccatoGrid(grid),
        { percent: parameters.percent },
        {
          judging: { leftOut: [], articulation: 'short' },
          tempo: [{ beat: 0, share: parameters.percent / 100 }],
          // Slowly, every note is clicked.
          click:
            perBeat >= 2 && perBeat <= 8
              ? { kind: 'division', divisions: perBeat, countInBars: 1 }
              : { kind: 'beat', divisions: 2, countInBars: 1 },
        },
      ),
    ];
  },
};
