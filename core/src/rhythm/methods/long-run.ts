import { z } from 'zod';
import { MIND_TASKS } from '../mind-tasks';
import { looped } from '../reshape/chain';
import { numberField, wordField, yesNoField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  rounds: z.number().int().min(2).max(64).default(8),
  distraction: z.boolean().default(true),
  task: z.string().default('sevens'),
});

/** A short loop over and over without a click; then again with something else to attend to: what it costs tells how automatic it is. */
export const LONG_RUN: Method<z.infer<typeof Parameters>> = {
  id: 'long-run',
  name: 'Long run',
  about:
    'Round and round without a click, first with all attention, then with a task for the mind: what it costs in evenness tells how far it goes by itself.',
  category: 'sure',
  stage: 'click',
  parameters: Parameters,
  fields: [
    numberField('rounds', 'Times round', [4, 8, 16, 32, 64]),
    yesNoField('distraction', 'Again with a task'),
    wordField('task', 'The task', Object.fromEntries(MIND_TASKS.map(({ id, name }) => [id, name]))),
  ],
  drills: (grid, parameters) => {
    const { rounds, distraction } = parameters;
    const whole = looped(
      grid,
      Math.min(rounds, Math.max(2, Math.floor(20_000 / grid.events.length)), Math.max(1, Math.floor(2000 / grid.bars))),
    );
    const drill = (isDistracted: boolean) =>
      makeDrill(
        'long-run',
        { ...parameters, distraction: isDistracted },
        whole,
        { rounds, mind: isDistracted ? 'with a task' : 'attentively' },
        {
          click: { kind: 'none', divisions: 2, countInBars: 1 },
          judging: { leftOut: ['drift', 'placement'], ownTempo: true },
          ...(isDistracted ? { distraction: true } : {}),
        },
      );
    return distraction ? [drill(false), drill(true)] : [drill(false)];
  },
};
