import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import type { Grid, GridEvent } from '../../schema/grid';
import { withLine } from '../line';
import { lasting } from '../reshape/fill-bars';
import { numberField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({ times: z.number().int().min(2).max(4).default(2) });

/** A voice's note of an event so many times in its own length, or in the time to the next one; the accent on the first. */
const repeated = (event: GridEvent, next: GridEvent, times: number): GridEvent[] => {
  const gap = beats(next.at).sub(beats(event.at));
  const whole = beats(event.length);
  const length = (whole.compare(gap) > 0 ? gap : whole).div(times);
  return Array.from({ length: times }, (_, k) => ({
    ...lasting(event, length),
    at: writeBeats(beats(event.at).add(length.mul(k))),
    accent: event.accent && k === 0,
  }));
};

/** Every note of the leading voice several times; other voices stay as written. */
const repeatedIn = (grid: Grid, times: number): Grid =>
  withLine(grid, (line) =>
    line.flatMap((event, k) => {
      const next = line[k + 1];
      // The last note is the landing: it stays whole.
      return next ? repeated(event, next, times) : [event];
    }),
  );

/** Every note twice, thrice or four times in its own length: the hand learns each place before it leaves it. */
export const REPEAT_EACH: Method<z.infer<typeof Parameters>> = {
  id: 'repeat-each',
  name: 'Repeat each note',
  about: 'Every note several times in its own length, so that the hand is sure of each place before it moves.',
  category: 'learn',
  stage: 'doubling',
  keepsOthers: true,
  parameters: Parameters,
  fields: [numberField('times', 'Each note', [2, 3, 4], (n) => ['twice', 'three times', 'four times'][n - 2] as string)],
  drills: (grid, parameters) => [
    makeDrill('repeat-each', parameters, repeatedIn(grid, parameters.times), { times: parameters.times }),
  ],
};
