import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import { meterBeats } from '../../schema/frame';
import type { GridEvent } from '../../schema/grid';
import { fillBars, plainFrame } from '../reshape/fill-bars';
import { numberField, yesNoField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  from: z.number().int().min(1).max(8).default(1),
  to: z.number().int().min(1).max(8).default(4),
  /** Bars of each. */
  bars: z.number().int().min(1).max(4).default(1),
  /** Whether it goes down again. */
  back: z.boolean().default(true),
});

/** The same click, one, two, three, four notes to it: up, and down again. */
export const SUBDIVISIONS: Method<z.infer<typeof Parameters>> = {
  id: 'subdivisions',
  name: 'Ladder of divisions',
  about: 'Under the same click one note to the beat, then two, three, four: the beat must not move when the notes change.',
  category: 'even',
  stage: 'anew',
  parameters: Parameters,
  fields: [
    numberField('from', 'From', [1, 2, 3, 4], (n) => `${n} to the beat`),
    numberField('to', 'To', [2, 3, 4, 5, 6, 7, 8], (n) => `${n} to the beat`),
    numberField('bars', 'Bars of each', [1, 2, 4]),
    yesNoField('back', 'And back'),
  ],
  drills: (grid, parameters) => {
    const { bars, back } = parameters;
    const [low, high] = [Math.min(parameters.from, parameters.to), Math.max(parameters.from, parameters.to)];
    const up = Array.from({ length: high - low + 1 }, (_, k) => low + k);
    const rungs = back ? [...up, ...up.slice(0, -1).reverse()] : up;
    const [meter] = grid.meters;
    const span = (meter ? meterBeats(meter, grid.beatUnit) : beats(4)).mul(bars);
    let start = beats(0);
    const events: GridEvent[] = [];
    for (const [rung, perBeat] of rungs.entries()) {
      const each = beats(`1/${perBeat}`);
      const count = span.mul(perBeat).floor().valueOf();
      for (let k = 0; k < count; k += 1) {
        const event = grid.events[k % grid.events.length] as GridEvent;
        const length = writeBeats(each);
        const { role: _, ...plain } = event;
        events.push({
          ...plain,
          at: writeBeats(start.add(each.mul(k))),
          length,
          notes: event.notes.map((note) => ({ ...note, length })),
          ...(rung > 0 && k === 0 ? { role: 'join' as const } : {}),
        });
      }
      start = start.add(span);
    }
    // A landing on the beat after the last rung.
    const landing = grid.events[0] as GridEvent;
    events.push({
      ...landing,
      at: writeBeats(start),
      length: '1',
      notes: landing.notes.map((note) => ({ ...note, length: '1' })),
      role: 'landing',
    });
    const whole = fillBars(plainFrame(grid), events);
    return [makeDrill('subdivisions', parameters, whole, { from: low, to: high })];
  },
};
