import { cross } from 'd3-array';
import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import { meterBeats } from '../../schema/frame';
import type { GridEvent } from '../../schema/grid';
import { fillBars, plainFrame } from '../reshape/fill-bars';
import { numberField, wordField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

/** Rhythms that fill a beat, in parts of it. */
const FIGURES = {
  'long-short': ['2/3', '1/3'],
  'short-long': ['1/3', '2/3'],
  dotted: ['3/4', '1/4'],
  'two-and-one': ['1/4', '1/4', '1/2'],
  'one-and-two': ['1/2', '1/4', '1/4'],
} as const;

/** Fingers, and strings from the highest. */
const FOUR = ['1', '2', '3', '4'] as const;

const Parameters = z.object({
  perBeat: z.number().int().min(0).max(8).default(0),
  /** The rhythm of the waves; a figure fills one beat, however many waves to the beat there would be. */
  rhythm: z.enum(['even', ...(Object.keys(FIGURES) as (keyof typeof FIGURES)[])]).default('even'),
  /** Beats to a bow; 0 where it is changed as one likes. */
  bow: z.number().int().min(0).max(16).default(0),
  /** One finger, or each of them in a drill of its own. */
  fingers: z.enum(['written', 'each', ...FOUR]).default('written'),
  /** The same for strings: on another string it is any note, of no pitch. */
  strings: z.enum(['written', 'each', ...FOUR]).default('written'),
  bars: z.number().int().min(1).max(4).default(2),
});

const EACH_OF_FOUR = { written: 'as written', each: '1, 2, 3, 4 in turn', 1: '1', 2: '2', 3: '3', 4: '4' };

/** What is played of four, one after the other; null for what is written. */
const chosenOf = (which: z.infer<typeof Parameters>['fingers']): readonly (string | null)[] =>
  which === 'each' ? FOUR : [which === 'written' ? null : which];

/** A rhythm played as waves of pitch on one held note, 1, 2, 3, 4 … to the beat: read from the pitch, not from attacks. */
export const PULSES: Method<z.infer<typeof Parameters>> = {
  id: 'pulses',
  name: 'Pulses on one note',
  about: 'One held note whose pitch swings in time, one, two, three, four waves to the beat: a vibrato under command.',
  category: 'even',
  stage: 'anew',
  needs: 'held-note',
  parameters: Parameters,
  fields: [
    numberField('perBeat', 'Waves to the beat', [0, 1, 2, 3, 4, 6, 8], (n) => (n === 0 ? '1, 2, 3, 4 in turn' : String(n))),
    wordField('rhythm', 'Rhythm', {
      even: 'even',
      'long-short': 'long and short',
      'short-long': 'short and long',
      dotted: 'dotted',
      'two-and-one': 'two short, one long',
      'one-and-two': 'one long, two short',
    }),
    numberField('bow', 'Change the bow', [0, 1, 2, 4, 8], (n) =>
      n === 0 ? 'as you like' : n === 1 ? 'every beat' : `every ${n} beats`,
    ),
    wordField('fingers', 'Fingers', EACH_OF_FOUR),
    wordField('strings', 'Strings', EACH_OF_FOUR),
    numberField('bars', 'Bars', [1, 2, 4]),
  ],
  fieldNeeds: { bow: 'bow', fingers: 'bow', strings: 'bow' },
  drills: (grid, parameters) => {
    const [meter] = grid.meters;
    const span = (meter ? meterBeats(meter, grid.beatUnit) : beats(4)).mul(parameters.bars);
    const source = grid.events.find(({ notes }) => notes.some(({ pitch }) => pitch !== null)) ?? (grid.events[0] as GridEvent);
    const { role: _, ...plain } = source;
    const { perBeat, rhythm, bow, fingers, strings } = parameters;
    /** The lengths of the waves, over and over: of each drill one set. */
    const waves: { perBeat: number; figure: readonly string[] }[] =
      rhythm !== 'even'
        ? [{ perBeat: FIGURES[rhythm].length, figure: FIGURES[rhythm] }]
        : (perBeat === 0 ? [1, 2, 3, 4] : [perBeat]).map((count) => ({ perBeat: count, figure: [`1/${count}`] }));
    const played = cross(waves, chosenOf(strings), chosenOf(fingers)).map(([one, string, finger]) => ({
      ...one,
      string,
      finger,
    }));
    return played.map(({ perBeat: count, figure, string, finger }) => {
      const lengths = figure.map((length) => beats(length));
      const events: GridEvent[] = [];
      for (let at = beats(0), k = 0; at.compare(span) < 0; k += 1) {
        const length = lengths[k % lengths.length] as (typeof lengths)[number];
        const isTurn = bow > 0 && at.mod(bow).equals(0);
        const marks = {
          ...(finger ? { finger } : {}),
          ...(string ? { string } : {}),
          ...(isTurn ? { stroke: at.div(bow).mod(2).equals(0) ? ('down' as const) : ('up' as const) } : {}),
        };
        events.push({
          ...plain,
          at: writeBeats(at),
          length: writeBeats(length),
          accent: false,
          notes: source.notes.slice(0, 1).map(({ marks: own, ...note }) => ({
            ...note,
            ...(string ? { pitch: null } : {}),
            length: writeBeats(length),
            marks: { ...own, ...marks },
          })),
        });
        at = at.add(length);
      }
      return makeDrill(
        'pulses',
        { ...parameters, perBeat: count, fingers: finger ?? 'written', strings: string ?? 'written' },
        fillBars(plainFrame(grid), events),
        { perBeat: count, figure: rhythm, finger: finger ?? '', string: string ?? '' },
        { listen: 'pulses', judging: { leftOut: ['accents'] } },
      );
    });
  },
};
