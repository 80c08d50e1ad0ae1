import { z } from 'zod';
import { wordField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';
import { legatoGrid } from './touch';

const Parameters = z.object({ step: z.enum(['both', 'slurred', 'articulated']).default('both') });

/** First connected, which shows what tonguing or bow changes hide; then with the real articulation. */
export const SLUR_THEN_ARTICULATE: Method<z.infer<typeof Parameters>> = {
  id: 'slur-then-articulate',
  name: 'Slur, then articulate',
  about: 'Slurred first, which lays the fingers bare; then tongued, bowed or struck the way that the full tempo needs.',
  category: 'even',
  stage: 'touch',
  needs: 'length',
  parameters: Parameters,
  fields: [wordField('step', 'Play', { both: 'slurred, then articulated', slurred: 'slurred', articulated: 'articulated' })],
  drills: (grid, { step }) => [
    ...(step !== 'articulated'
      ? [makeDrill('slur-then-articulate', { step: 'slurred' }, legatoGrid(grid), { step: 'slurred' })]
      : []),
    ...(step !== 'slurred' ? [makeDrill('slur-then-articulate', { step: 'articulated' }, grid, { step: 'articulated' })] : []),
  ],
};
