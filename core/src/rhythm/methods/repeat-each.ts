import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import type { GridEvent } from '../../schema/grid';
import { why } from '../../schema/why';
import type { Method } from './method';
import { PLAIN_CLICK } from './plain-click';

const Parameters = z.object({ times: z.number().int().min(2).max(4).default(2) });

/** The same event so many times in its own length, or in the time to the next one; the accent on the first. */
const repeated = (event: GridEvent, next: GridEvent, times: number): GridEvent[] => {
  const gap = beats(next.at).sub(beats(event.at));
  const whole = beats(event.length);
  const length = (whole.compare(gap) > 0 ? gap : whole).div(times);
  return Array.from({ length: times }, (_, k) => ({
    at: writeBeats(beats(event.at).add(length.mul(k))),
    length: writeBeats(length),
    accent: event.accent && k === 0,
    notes: event.notes.map((note) => ({ ...note, length: writeBeats(length) })),
  }));
};

/** Every note twice, thrice or four times in its own length: the hand learns each place before it leaves it. */
export const REPEAT_EACH: Method<z.infer<typeof Parameters>> = {
  id: 'repeat-each',
  name: 'Repeat each note',
  about: 'Every note several times in its own length, so that the hand is sure of each place before it moves.',
  parameters: Parameters,
  fields: [
    {
      key: 'times',
      label: 'Each note',
      choices: [
        { value: 2, name: 'twice' },
        { value: 3, name: 'three times' },
        { value: 4, name: 'four times' },
      ],
    },
  ],
  drills: (grid, { times }) => [
    {
      method: { id: 'repeat-each', parameters: { times } },
      // The last note is the landing: it stays whole.
      grid: {
        ...grid,
        events: grid.events.flatMap((event, k) => {
          const next = grid.events[k + 1];
          return next ? repeated(event, next, times) : [event];
        }),
      },
      click: PLAIN_CLICK,
      judging: { leftOut: [] },
      purpose: why('repeat-each', { times }),
    },
  ],
};
