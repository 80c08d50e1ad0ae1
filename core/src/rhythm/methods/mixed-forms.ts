import { z } from 'zod';
import { beats, writeBeats } from '../../schema/beats';
import type { Grid } from '../../schema/grid';
import { usualStep } from '../reshape/runs';
import { type CellPlace, hasThrees, inCells, isCounted } from './cells';
import { makeDrill } from './make-drill';
import type { Method } from './method';

/** A figure: its notes' lengths in units, and the note of the passage that a unit is a part of. */
interface Form {
  name: string;
  weights: readonly number[];
  /** Notes of the passage whose time the figure takes. */
  spans: number;
}

const form = (name: string, spans: number): Form => ({ name, weights: [...name].map(Number), spans });
/** Where the beat has twos and fours: four of the passage's notes. */
const BY_FOURS = ['211', '112', '121', '31', '13'].map((name) => form(name, 4));
/** Where it has threes, as in 6/8: three of them, by one or by halves. */
const BY_THREES = [form('21', 3), form('12', 3), ...['2112', '2211', '1122'].map((name) => form(name, 3))];
/** Triplet figures take as long as two notes: long and short by thirds. */
const TRIPLETS = [
  { name: 't21', weights: [2, 1], spans: 2 },
  { name: 't12', weights: [1, 2], spans: 2 },
];
const FORMS = [...BY_FOURS, ...BY_THREES];

const Parameters = z.object({
  form: z.enum(['each', '211', '112', '121', '31', '13', 'triplets', '21', '12', '2112', '2211', '1122']).default('each'),
});

/** The figures that suit how the beat of a grid is divided. */
const formsFor = (grid: Grid): readonly Form[] => (hasThrees(grid) ? BY_THREES : [...BY_FOURS, ...TRIPLETS]);

/** A figure over a group; a group that is cut short, or whose notes do not divide the beat so, stays as written. */
const cellFor = ({ weights, spans }: Form, { notes, each, beat }: CellPlace) => {
  const length = each.mul(spans);
  const units = weights.reduce((sum, weight) => sum + weight, 0);
  const fills = length.div(beat).d === 1n || beat.div(length).d === 1n;
  return notes === weights.length && fills && isCounted(units, length, { each, beat }) ? { weights, length } : null;
};

/** The notes of a run in the mixed figures of its beat: a note and two of half its length, and so on; and in triplet figures. */
export const MIXED_FORMS: Method<z.infer<typeof Parameters>> = {
  id: 'mixed-forms',
  name: 'Mixed figures',
  about: 'The same notes in figures of long and quick ones that fill the beat, so that no group falls on the same beat.',
  category: 'even',
  stage: 'rhythm',
  keepsOthers: true,
  parameters: Parameters,
  fields: [
    {
      key: 'form',
      label: 'Figure',
      choices: [
        { value: 'each', name: 'each in turn' },
        { value: '211', name: 'long, quick, quick' },
        { value: '112', name: 'quick, quick, long' },
        { value: '121', name: 'quick, long, quick' },
        { value: '31', name: 'dotted and quick' },
        { value: '13', name: 'quick and dotted' },
        { value: 'triplets', name: 'triplet figures' },
        { value: '21', name: 'by threes: long, quick' },
        { value: '12', name: 'by threes: quick, long' },
        { value: '2112', name: 'by threes: long, two quick, long' },
        { value: '2211', name: 'by threes: two long, two quick' },
        { value: '1122', name: 'by threes: two quick, two long' },
      ],
    },
  ],
  drills: (grid, parameters) => {
    const chosen = parameters.form === 'triplets' ? TRIPLETS : FORMS.filter(({ name }) => name === parameters.form);
    // A figure that does not suit the beat would leave everything as it is.
    const suiting = formsFor(grid);
    const forms = chosen.some((one) => suiting.includes(one)) ? chosen : suiting;
    return forms.map((one) => {
      const units = one.weights.reduce((sum, weight) => sum + weight, 0);
      const quick = beats(usualStep(grid)).mul(one.spans).div(units).mul(beats(grid.beatUnit));
      return makeDrill(
        'mixed-forms',
        { form: one.name.startsWith('t') ? 'triplets' : one.name },
        inCells(grid, one.weights.length, (place) => cellFor(one, place)),
        { form: one.name, quick: writeBeats(quick) },
      );
    });
  },
};
