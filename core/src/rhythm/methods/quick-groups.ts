import type Fraction from 'fraction.js';
import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import type { Grid, GridEvent } from '../../schema/grid';
import { lineOf } from '../line';
import { firstBeat } from '../metric';
import { fillBars, lasting, plainFrame } from '../reshape/fill-bars';
import { usualStep } from '../reshape/runs';
import { numberField, yesNoField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const Parameters = z.object({
  size: z.number().int().min(2).max(8).default(4),
  /** The note at which the groups begin, from 1 on; 0 for each in turn. */
  offset: z.number().int().min(0).max(8).default(0),
  /** Beats of rest after each group, at least. */
  pause: z.number().int().min(1).max(4).default(1),
  /** How many times as fast as written. */
  speed: z.number().int().min(1).max(3).default(1),
  /** Whether each group goes on to the first note of the next. */
  landing: z.boolean().default(true),
});

/** Groups of a grid's leading voice from its note `first` on, each beginning on a beat, in its own rhythm, with a pause after it. */
const grouped = (grid: Grid, first: number, { size, pause, speed, landing }: z.infer<typeof Parameters>): Grid => {
  const each = beats(usualStep(grid)).div(speed);
  const beat = firstBeat(grid);
  const line = lineOf(grid);
  const events: GridEvent[] = [];
  let start = beats(0);
  for (let from = first; from < line.length - (landing ? 1 : 0); from += size) {
    const end = line[from + size];
    const lands = landing && end !== undefined;
    // What other voices have meanwhile comes along.
    const group = grid.events.slice(line[from], end === undefined ? undefined : end + Number(lands));
    const zero = beats((group[0] as GridEvent).at);
    const offsets = group.map(({ at }) => beats(at).sub(zero).div(speed));
    group.forEach((event, k) => {
      const isLanding = k > 0 && k === group.length - 1 && (lands || end === undefined);
      const own = beats(event.length).div(speed);
      const room = offsets[k + 1]?.sub(offsets[k] as Fraction) ?? each;
      events.push({
        ...lasting(event, own.compare(room) > 0 || isLanding ? room : own),
        at: writeBeats(start.add(offsets[k] as Fraction)),
        ...(k === 0 ? { role: 'group start' as const } : isLanding && landing ? { role: 'landing' as const } : {}),
      });
    });
    const took = (offsets.at(-1) as Fraction).add(each).div(beat).ceil();
    start = start.add(beat.mul(took.compare(1) < 0 ? 1 : took).add(beat.mul(pause)));
  }
  return fillBars(plainFrame(grid), events);
};

/** Groups at speed with a pause between them; they begin at each note in turn, so that every connection lies inside a group. */
export const QUICK_GROUPS: Method<z.infer<typeof Parameters>> = {
  id: 'quick-groups',
  name: 'Quick groups',
  about: 'A few notes at full speed, then a pause to let go and to hear the next few in the head.',
  category: 'speed',
  stage: 'groups',
  keepsOthers: true,
  parameters: Parameters,
  fields: [
    numberField('size', 'Groups of', [2, 3, 4, 5, 6, 8]),
    numberField('offset', 'Begin at', [0, 1, 2, 3, 4, 5, 6, 7, 8], (n) => (n === 0 ? 'each note in turn' : `note ${n}`)),
    numberField('pause', 'Beats of rest', [1, 2, 3, 4]),
    numberField('speed', 'Speed', [1, 2, 3], (n) => (n === 1 ? 'as written' : `${n} times as fast`)),
    yesNoField('landing', 'On to the next note'),
  ],
  drills: (grid, parameters) => {
    const { size, offset, landing } = parameters;
    // Groups need notes enough; a grid of fewer notes is one group.
    const last = lineOf(grid).length - (landing ? 2 : 1);
    const offsets = offset >= 1 ? [Math.min(offset, last + 1, size)] : Array.from({ length: size }, (_, k) => k + 1);
    return offsets
      .filter((first) => first - 1 <= Math.max(0, last))
      .map((first) =>
        makeDrill('quick-groups', { ...parameters, offset: first }, grouped(grid, Math.max(0, first - 1), parameters), {
          size,
          first,
        }),
      );
  },
};
