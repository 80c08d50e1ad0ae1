import { z } from 'zod';
import { makeDrill } from './make-drill';
import type { Method } from './method';

/** As notated. */
export const STRAIGHT: Method<Record<string, never>> = {
  id: 'straight',
  name: 'Straight',
  about: 'As notated.',
  category: 'learn',
  stage: 'all',
  parameters: z.object({}) as z.ZodType<Record<string, never>>,
  fields: [],
  drills: (grid) => [makeDrill('straight', {}, grid)],
};
