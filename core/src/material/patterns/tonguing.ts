import { z } from 'zod';
import { numberField, wordField } from '../../rhythm/methods/fields';
import { above, lowestTonic, signatureOf, TONICS, tonicField, tonicName } from './keys';
import { startInMiddle } from './melodic-range';
import type { Pattern } from './pattern';
import { patternPassage } from './pattern-passage';

const KINDS = {
  single: ['t'],
  double: ['t', 'k'],
  triple: ['t', 't', 'k'],
  'triple-middle': ['t', 'k', 't'],
} as const;

const Parameters = z.object({
  kind: z.enum(['single', 'double', 'triple', 'triple-middle']).default('single'),
  tonic: z.enum(TONICS).default('C'),
  /** Strokes of the tongue on each note of the scale. */
  each: z.number().int().min(1).max(8).default(4),
  perBeat: z.number().int().min(2).max(6).default(4),
});

/** So many tongued notes on each step of a scale, singly, doubly or triply tongued. */
export const TONGUING: Pattern<z.infer<typeof Parameters>> = {
  id: 'tonguing',
  name: 'Tonguing',
  about: 'Several notes on each step of a scale, so that only the tongue has to be quick.',
  suits: ({ profileId }) => profileId === 'blown' || profileId === 'brass',
  parameters: Parameters,
  fields: () => [
    wordField('kind', 'Tonguing', {
      single: 'single',
      double: 'double, t k',
      triple: 'triple, t t k',
      'triple-middle': 'triple, t k t',
    }),
    tonicField('Key'),
    numberField('each', 'Notes on each step', [2, 3, 4, 6, 8]),
    numberField('perBeat', 'Notes to the beat', [2, 3, 4, 6]),
  ],
  make(parameters, instrument) {
    const { kind, tonic, each, perBeat } = parameters;
    const first = lowestTonic(tonic, instrument);
    const from = { ...first, octave: first.octave + startInMiddle(first, 1, instrument) };
    const scale = [0, 2, 4, 5, 7];
    const syllables = KINDS[kind];
    const degrees = [0, 1, 2, 3, 4, 3, 2, 1];
    const notes = degrees.flatMap((degree) =>
      Array.from({ length: each }, (_, k) => ({
        pitch: above(from, degree, scale[degree] ?? 0),
        marks: kind === 'single' ? {} : { sign: syllables[k % syllables.length] as string },
      })),
    );
    return patternPassage({
      id: 'pattern',
      title: `Tonguing, ${kind.replace('-middle', '')}, on ${tonicName(tonic)}`,
      about: `${each} on each step, ${perBeat} to the beat.`,
      instrument,
      perBeat,
      fifths: signatureOf(tonic, 0),
      goalBpm: 96,
      variant: kind === 'single' ? '' : syllables.join(' '),
      notes: [...notes, { pitch: from }],
      parameters,
      generator: 'tonguing',
    });
  },
};
