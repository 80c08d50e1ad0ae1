import { z } from 'zod';
import { HALF_SPEED_CLIMB } from './half-speed-climb';
import type { TempoStrategy } from './strategy';

const Options = HALF_SPEED_CLIMB.options.and(
  z.object({ overshootPct: z.union([z.literal(5), z.literal(8), z.literal(10), z.literal(15)]).default(8) }),
);
type Climb = typeof HALF_SPEED_CLIMB extends TempoStrategy<infer _, infer State> ? State : never;

/** The half-speed climb, past the goal and then back to it, so that the goal feels easy. Common practice, no source. */
export const BEYOND_THE_GOAL: TempoStrategy<z.infer<typeof Options>, Climb> = {
  ...HALF_SPEED_CLIMB,
  id: 'beyond-the-goal',
  name: 'Beyond the goal',
  about: 'Climbs past the goal, then comes back to it, so that the goal itself feels easy.',
  options: Options,
  fields: [
    ...HALF_SPEED_CLIMB.fields,
    {
      key: 'overshootPct',
      label: 'Overshoot',
      choices: [5, 8, 10, 15].map((percent) => ({ value: percent, name: `${percent} %` })),
    },
  ],
  overshootPct: ({ overshootPct }) => overshootPct,
};
