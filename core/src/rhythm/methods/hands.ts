import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import type { Grid, GridEvent, GridNote } from '../../schema/grid';
import type { Hand } from '../../schema/notation';
import { wordField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({ which: z.enum(['in turn', 'right', 'left', 'together']).default('in turn') });

/** The hand of a note: as it is marked, else by its staff where there are two. */
export const handOfNote = ({ marks, staff }: GridNote, staves: number): Hand | null =>
  marks.hand ?? (staves === 2 ? (staff === 1 ? 'right' : 'left') : null);

/** The notes of one hand; null where it has none. */
const oneHand = (grid: Grid, hand: Hand): Grid | null => {
  const events = grid.events.flatMap((event): GridEvent[] => {
    const notes = event.notes.filter((note) => handOfNote(note, grid.staves.length) === hand);
    if (notes.length === 0) return [];
    const length = notes.map((note) => beats(note.length)).reduce((least, one) => (one.compare(least) < 0 ? one : least));
    return [{ ...event, length: writeBeats(length), notes }];
  });
  const [first] = events;
  if (!first) return null;
  const at = beats(first.at);
  return { ...grid, pickup: at.compare(0) < 0 ? writeBeats(at.neg()) : '0', events };
};

/** Right hand, left hand, then both. */
export const HANDS: Method<z.infer<typeof Parameters>> = {
  id: 'hands',
  name: 'Hands apart',
  about: 'The right hand alone, the left alone, then both: what one hand cannot do, two will not.',
  category: 'learn',
  stage: 'notes',
  needs: 'two-hands',
  parameters: Parameters,
  fields: [
    wordField('which', 'Play', { 'in turn': 'right, left, together', right: 'right', left: 'left', together: 'together' }),
  ],
  drills: (grid, { which }) => {
    const hands = (['right', 'left'] as const)
      .filter((hand) => which === 'in turn' || which === hand)
      .flatMap((hand) => {
        const own = oneHand(grid, hand);
        return own ? [makeDrill('hands', { which: hand }, own, { which: hand })] : [];
      });
    const both = which === 'in turn' || which === 'together' || hands.length === 0;
    return both ? [...hands, makeDrill('hands', { which: 'together' }, grid, { which: 'together' })] : hands;
  },
};
