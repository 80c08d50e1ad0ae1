import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import type { Grid, GridEvent, GridNote } from '../../schema/grid';
import { lineAlone } from '../line';
import { midiOf } from '../pitch';
import { fillBars, plainFrame } from '../reshape/fill-bars';
import { usualStep } from '../reshape/runs';
import { numberField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  size: z.number().int().min(3).max(6).default(5),
  times: z.number().int().min(1).max(4).default(2),
});

const height = ({ notes }: GridEvent) => (notes[0]?.pitch ? midiOf(notes[0].pitch) : 0);

/** The different notes with which the leading voice begins, as many as asked for, from the lowest up: what one hand has under it. */
const handOf = (grid: Grid, size: number): GridEvent[] => {
  const { events } = lineAlone(grid);
  const seen = new Map<number, GridEvent>();
  for (const event of events) if (!seen.has(height(event)) && seen.size < size) seen.set(height(event), event);
  return [...seen.values()].sort((a, b) => height(a) - height(b));
};

/** One finger stays down while the others play in turn; each finger is held once. */
export const HOLD_ONE: Method<z.infer<typeof Parameters>> = {
  id: 'hold-one',
  name: 'Hold one',
  about: 'One finger stays down while the others play in turn, so that each learns to move without its neighbours.',
  category: 'even',
  stage: 'anew',
  needs: 'several-notes',
  keepsOthers: true,
  parameters: Parameters,
  fields: [numberField('size', 'Fingers', [3, 4, 5]), numberField('times', 'Times round', [1, 2, 3, 4])],
  drills: (grid, parameters) => {
    const hand = handOf(grid, parameters.size);
    if (hand.length < 2) return [makeDrill('hold-one', parameters, grid, { finger: 1, of: 1 })];
    const each = beats(usualStep(grid));
    return hand.map((held, k) => {
      const others = hand.filter((one) => one !== held);
      const moving = Array.from({ length: parameters.times }, () => others).flat();
      const whole = fillBars(
        plainFrame(grid),
        moving.map((event, n): GridEvent => {
          const length = writeBeats(each);
          const notes = event.notes.map((note): GridNote => ({ ...note, length, voice: 1 }));
          return { at: writeBeats(each.mul(n)), length, accent: false, notes };
        }),
      );
      const last = whole.events.at(-1) as GridEvent;
      const length = writeBeats(beats(last.at).add(beats(last.length)));
      const down = held.notes.map((note): GridNote => ({ ...note, length, voice: 2, held: true }));
      const [first, ...rest] = whole.events as [GridEvent, ...GridEvent[]];
      const together = [...first.notes, ...down].sort(
        (a, b) => height({ ...first, notes: [a] }) - height({ ...first, notes: [b] }),
      );
      return makeDrill(
        'hold-one',
        parameters,
        { ...whole, events: [{ ...first, notes: together }, ...rest] },
        { finger: k + 1, of: hand.length },
      );
    });
  },
};
