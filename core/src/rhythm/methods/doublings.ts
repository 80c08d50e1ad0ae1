import type Fraction from 'fraction.js';
import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import { meterBeats } from '../../schema/frame';
import type { Grid, GridEvent } from '../../schema/grid';
import { withLine } from '../line';
import { firstBeat, meterAt, placesIn } from '../metric';
import { lasting } from '../reshape/fill-bars';
import { usualStep } from '../reshape/runs';
import { combinations } from './combinations';
import { numberField, wordField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  /** How many notes of the stretch are doubled. */
  count: z.number().int().min(1).max(4).default(1),
  /** Whether they stand side by side. */
  together: z.boolean().default(true),
  over: z.enum(['beat', 'bar']).default('beat'),
});

/** Of a bar's sixteen notes three anywhere are 560 drills; four would be 1 820, more than anybody plays in a year. */
const MOST_ANYWHERE = 3;

/** Every place of a stretch at which notes can be doubled; side by side also over its end, into the next one. */
export const placements = (notes: number, count: number, together: boolean): number[][] =>
  together
    ? Array.from({ length: count < notes ? notes : 1 }, (_, k) => Array.from({ length: count }, (_one, n) => (k + n) % notes))
    : combinations(notes, count);

/** The same event twice in its own time. */
const doubled = (event: GridEvent, gap: ReturnType<typeof beats>): GridEvent[] => {
  const half = gap.div(2);
  return [0, 1].map((k) => ({
    ...lasting(event, half),
    at: writeBeats(beats(event.at).add(half.mul(k))),
    accent: event.accent && k === 0,
  }));
};

/** Notes of the leading voice whose place in their beat or bar is among the chosen, doubled; the last note is the landing and stays. */
const withDoubled = (grid: Grid, over: 'beat' | 'bar', step: Fraction, chosen: readonly number[]): Grid => {
  const placeOf = placesIn(grid);
  return withLine(grid, (line) =>
    line.flatMap((event, k) => {
      const next = line[k + 1];
      const { inBar, beat } = placeOf(beats(event.at));
      const place = (over === 'beat' ? inBar.mod(beat) : inBar).div(step).valueOf();
      return next && chosen.includes(place) ? doubled(event, beats(next.at).sub(beats(event.at))) : [event];
    }),
  );
};

/** Notes of a bar of sixteenths doubled to thirty-seconds: singly, in pairs, in threes; every placement in turn. */
export const DOUBLINGS: Method<z.infer<typeof Parameters>> = {
  id: 'doublings',
  name: 'Doublings',
  about:
    'Chosen notes are struck twice in their own time, at every place in turn: the stroke or the tongue learns to double anywhere.',
  category: 'even',
  stage: 'doubling',
  keepsOthers: true,
  parameters: Parameters,
  fields: [
    numberField('count', 'Doubled', [1, 2, 3, 4], (n) => (n === 1 ? 'one note' : `${n} notes`)),
    {
      key: 'together',
      label: 'They stand',
      choices: [
        { value: true, name: 'side by side' },
        { value: false, name: 'anywhere' },
      ],
    },
    wordField('over', 'In each', { beat: 'beat', bar: 'bar' }),
  ],
  drills: (grid, parameters) => {
    const { count, over, together } = parameters;
    const step = beats(usualStep(grid));
    const span = over === 'beat' ? firstBeat(grid) : meterBeats(meterAt(grid, beats(0)), grid.beatUnit);
    const notes = Math.max(1, Math.floor(span.div(step).valueOf()));
    const used = Math.min(count, notes, !together && notes > 8 ? MOST_ANYWHERE : 4);
    return placements(notes, used, together).map((chosen) =>
      makeDrill('doublings', { ...parameters, count: used }, withDoubled(grid, over, step, chosen), {
        places: chosen.map((place) => place + 1).join(', '),
        of: notes,
      }),
    );
  },
};
