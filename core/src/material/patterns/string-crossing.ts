import { z } from 'zod';
import { numberField, wordField } from '../../rhythm/methods/fields';
import type { Pattern } from './pattern';
import { patternPassage } from './pattern-passage';

const Parameters = z.object({
  /** Strings in order, counted from the lowest: 1 is the lowest. */
  path: z.enum(['neighbours', 'skips', 'wheel', 'outer']).default('neighbours'),
  stroke: z.enum(['alternate', 'pairs', 'pim', 'pimami', 'none']).default('alternate'),
  times: z.number().int().min(1).max(8).default(4),
  perBeat: z.number().int().min(1).max(6).default(4),
});

/** Orders of strings, as places from the lowest (0) of so many. */
const PATHS: Record<z.infer<typeof Parameters>['path'], (count: number) => number[]> = {
  neighbours: (count) => Array.from({ length: count - 1 }, (_, k) => [k, k + 1]).flat(),
  skips: (count) => Array.from({ length: Math.max(1, count - 2) }, (_, k) => [k, Math.min(count - 1, k + 2)]).flat(),
  wheel: (count) => {
    const up = Array.from({ length: count }, (_, k) => k);
    return [...up, ...up.slice(1, -1).reverse()];
  },
  outer: (count) => [0, count - 1, Math.min(1, count - 1), count - 1],
};

/** Strokes and plucking fingers, over and over. */
const STROKES: Record<z.infer<typeof Parameters>['stroke'], readonly string[]> = {
  alternate: ['down', 'up'],
  pairs: ['down', 'down', 'up', 'up'],
  pim: ['p', 'i', 'm'],
  pimami: ['p', 'i', 'm', 'a', 'm', 'i'],
  none: [],
};

/** Open strings in an order, with bow strokes, or plucked with thumb, index and middle finger. */
export const STRING_CROSSING: Pattern<z.infer<typeof Parameters>> = {
  id: 'string-crossing',
  name: 'String crossing',
  about: 'Open strings in turn, bowed, picked, or plucked with thumb and fingers: only the right hand has to think.',
  suits: ({ strings }) => strings.length > 1,
  parameters: Parameters,
  fields: ({ profileId }) => [
    wordField('path', 'Strings', {
      neighbours: 'neighbours',
      skips: 'one left out',
      wheel: 'up and down',
      outer: 'outer and inner',
    }),
    wordField(
      'stroke',
      'With',
      profileId === 'bowed'
        ? { alternate: 'down and up', pairs: 'two down, two up', none: 'nothing marked' }
        : {
            alternate: 'down and up',
            pairs: 'two down, two up',
            pim: 'thumb, index, middle',
            pimami: 'thumb, index, middle, ring and back',
            none: 'nothing marked',
          },
    ),
    numberField('times', 'Times', [1, 2, 4, 8]),
    numberField('perBeat', 'Notes to the beat', [2, 3, 4, 6]),
  ],
  make(parameters, instrument) {
    const { path, stroke, times, perBeat } = parameters;
    const { strings } = instrument;
    const order = PATHS[path](strings.length);
    const places = [...Array.from({ length: times }, () => order).flat(), 0];
    const strokes = STROKES[stroke];
    const notes = places.map((place, k) => {
      const string = strings[place] as (typeof strings)[number];
      const how = strokes[k % strokes.length];
      return {
        pitch: string.pitch,
        marks: {
          string: string.name,
          ...(how === 'up' || how === 'down' ? { stroke: how as 'up' | 'down' } : how ? { finger: how } : {}),
        },
      };
    });
    return patternPassage({
      id: 'pattern',
      title: `String crossing: ${PATH_NAMES[path]}`,
      about: `Open strings, ${perBeat} to the beat.`,
      instrument,
      perBeat,
      goalBpm: 100,
      variant: 'as generated',
      notes,
      parameters,
      generator: 'string-crossing',
    });
  },
};

const PATH_NAMES: Record<z.infer<typeof Parameters>['path'], string> = {
  neighbours: 'neighbours',
  skips: 'one left out',
  wheel: 'up and down',
  outer: 'outer and inner',
};
