import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import { barStarts } from '../../schema/frame';
import type { Grid, GridEvent, GridNote } from '../../schema/grid';
import { firstBeat, isOn } from '../metric';
import { looped } from '../reshape/chain';
import { plainFrame } from '../reshape/fill-bars';
import { usualStep } from '../reshape/runs';
import { numberField, wordField, yesNoField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const ON_BEATS = 'beats';
/** Thirds that are offered; any other can be typed. */
const THIRDS = {
  [ON_BEATS]: 'on the beats',
  'x.': 'every other note',
  '.x': 'between them',
  'x..x..x.': 'three, three, two',
  '....x...': 'on the fifth of eight',
  'x..x.xx..x.x': 'threes against it',
} as const;

/** Up to 32 strokes and rests, at least one stroke among them. */
const RHYTHM = /(?=.*x)[x.]{1,32}/;

const Parameters = z.object({
  /** Notes that are shared out. */
  notes: z.number().int().min(2).max(8).default(4),
  feel: z.enum(['straight', 'swung']).default('straight'),
  /** What stays: on the beats, or over the notes of a bar an x for a stroke and a dot for none, again and again. */
  third: z
    .string()
    .regex(new RegExp(`^(?:${ON_BEATS}|${RHYTHM.source})$`))
    .default(ON_BEATS),
  bars: z.number().int().min(1).max(8).default(2),
  /** Every other bar is soft. */
  levels: z.boolean().default(false),
});

/** Swung: the first of two lasts twice as long as the second. */
const swung = (at: ReturnType<typeof beats>, step: ReturnType<typeof beats>) => {
  const pair = step.mul(2);
  const whole = at.div(pair).floor();
  const inside = at.sub(pair.mul(whole));
  return inside.equals(0) ? at : pair.mul(whole).add(inside.mul('4/3'));
};

/** One bar in which a figure of notes goes over and over, each in its limb, with a third that stays. */
const barOf = (grid: Grid, isRight: readonly boolean[], feel: 'straight' | 'swung', third: string): Grid => {
  const one = { ...plainFrame(grid), bars: 1, events: [] as GridEvent[] };
  const length = barStarts(one).at(-1) as ReturnType<typeof beats>;
  const step = beats(usualStep(grid));
  const beat = firstBeat(grid);
  const count = Math.floor(length.div(step).valueOf());
  const source = grid.events;
  const places = Array.from({ length: count }, (_, k) => (feel === 'swung' ? swung(step.mul(k), step) : step.mul(k)));
  const events = places.map((at, k): GridEvent => {
    const next = places[k + 1] ?? length;
    const sounding = writeBeats(next.sub(at));
    const from = source[k % source.length] as GridEvent;
    const hand = isRight[k % isRight.length] ? ('right' as const) : ('left' as const);
    const [note] = from.notes as [GridNote];
    const own: GridNote = {
      ...note,
      length: sounding,
      pitch: null,
      staff: 1,
      voice: hand === 'right' ? 1 : 2,
      marks: { hand },
    };
    const rest = length.sub(at);
    const isStruck = third === ON_BEATS ? isOn({ inBar: at, bar: length, beat }) : third[k % third.length] === 'x';
    // Off the beats it is as short as the figure's notes.
    const held = third === ON_BEATS ? (beat.compare(rest) > 0 ? rest : beat) : next.sub(at);
    const steady: GridNote[] = isStruck ? [{ ...own, length: writeBeats(held), voice: 3, marks: { sign: '•' } }] : [];
    return { at: writeBeats(at), length: sounding, accent: false, notes: [own, ...steady] };
  });
  return { ...one, staves: [{ clef: 'percussion' }], events };
};

/** Every way to share a figure's notes between two limbs, over a third that stays: 2 to the number of notes of them. */
export const TWO_VOICES: Method<z.infer<typeof Parameters>> = {
  id: 'two-voices',
  name: 'Shared between two',
  about: 'A figure shared between two hands or feet in every way there is, over a third that stays.',
  category: 'even',
  stage: 'anew',
  needs: 'two-limbs',
  parameters: Parameters,
  fields: [
    numberField('notes', 'Notes in the figure', [2, 3, 4, 5, 6, 8]),
    {
      ...wordField('third', 'The third', THIRDS),
      typed: {
        name: 'a rhythm of your own',
        start: 'x.xx.x',
        pattern: new RegExp(`^${RHYTHM.source}$`),
        hint: 'x for a stroke, a dot for none, up to 32 of them: each is one note of the figure.',
        fault: 'This is no rhythm yet.',
      },
    },
    wordField('feel', 'Feel', { straight: 'straight', swung: 'swung' }),
    numberField('bars', 'Bars of each', [1, 2, 4, 8]),
    yesNoField('levels', 'Every other bar soft'),
  ],
  drills: (grid, parameters) => {
    const { notes, feel, third, bars, levels } = parameters;
    return Array.from({ length: 2 ** notes }, (_, number) => {
      const isRight = Array.from({ length: notes }, (_one, k) => (number & (1 << (notes - 1 - k))) === 0);
      const whole = looped(barOf(grid, isRight, feel, third), bars);
      const barLength = (barStarts(whole)[1] ?? beats(1)).valueOf();
      const isSoft = ({ at }: GridEvent) => levels && Math.floor(beats(at).valueOf() / barLength) % 2 === 1;
      const events = whole.events.map((event) => ({
        ...event,
        accent: levels && !isSoft(event),
        notes: event.notes.map((note) => ({
          ...note,
          ...(levels ? { dynamic: isSoft(event) ? ('p' as const) : ('f' as const) } : {}),
        })),
      }));
      return makeDrill(
        'two-voices',
        parameters,
        { ...whole, events },
        { hands: isRight.map((right) => (right ? 'R' : 'L')).join(' ') },
      );
    });
  },
};
