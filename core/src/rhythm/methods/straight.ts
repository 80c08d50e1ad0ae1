import { z } from 'zod';
import { why } from '../../schema/why';
import type { Method } from './method';
import { PLAIN_CLICK } from './plain-click';

/** As notated. */
export const STRAIGHT: Method<Record<string, never>> = {
  id: 'straight',
  name: 'Straight',
  about: 'As notated.',
  parameters: z.object({}) as z.ZodType<Record<string, never>>,
  fields: [],
  drills: (grid) => [
    {
      method: { id: 'straight', parameters: {} },
      grid,
      click: PLAIN_CLICK,
      judging: { leftOut: [] },
      purpose: why('straight'),
    },
  ],
};
