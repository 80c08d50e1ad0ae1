import type Fraction from 'fraction.js';
import { z } from 'zod';
import { type Cell, type CellPlace, groupTime, hasThrees, inCells, isCounted } from './cells';
import { numberField, wordField } from './fields';
import { makeDrill } from './make-drill';
import type { Method } from './method';

const ORDINALS: Record<number, string> = { 1: 'st', 2: 'nd', 3: 'rd' };

const Parameters = z.object({
  /** Notes of a group; 0 for two, or three where the beat has threes. */
  size: z.number().int().min(0).max(6).default(0),
  /** The place of the long note in its group, from 1; 0 for every place in turn. */
  long: z.number().int().min(0).max(6).default(0),
  /** How long it is: at least three or two times a short one, half of the group's time, or held until the short ones lead to the next beat. */
  ratio: z.enum(['dotted', 'triplet', 'half', 'held']).default('dotted'),
});
type Ratio = z.infer<typeof Parameters>['ratio'];

/** How many times as long as a short note the long one is, at least. */
const LEAST: Record<Exclude<Ratio, 'held'>, (shorts: number) => number> = {
  dotted: () => 3,
  triplet: () => 2,
  half: (shorts) => Math.max(2, shorts),
};

/** So many short notes' time the long one may take: what is written as one note, dotted or not. */
const LONG_WEIGHTS = [2, 3, 4, 6, 8, 12, 16, 24];

/**
 * A group in which the note at `long`, from 0, is long: it fills whole beats, or an even part of one, and divides them so that they can be
 * counted, by halves rather than by threes. Null where nothing does.
 */
const longShort = (place: CellPlace, long: number, ratio: Ratio): Cell | null => {
  const { notes, each, beat } = place;
  const shorts = notes - 1;
  const at = Math.min(long, shorts);
  const cell = (weight: number, length: Cell['length']): Cell => ({
    weights: Array.from({ length: notes }, (_, k) => (k === at ? weight : 1)),
    length,
  });
  if (shorts === 0) return null;
  if (ratio === 'held') {
    // The short ones as quick as written, the long one at least a beat.
    const length = each.mul(shorts).add(beat).div(beat).ceil().mul(beat);
    return cell(length.div(each).valueOf() - shorts, length);
  }
  const length = groupTime(place);
  // The short ones no slower than written.
  const weights = LONG_WEIGHTS.filter((weight) => {
    const units = weight + shorts;
    return weight >= LEAST[ratio](shorts) && length.div(units).compare(each) <= 0 && isCounted(units, length, place);
  });
  const byHalves = weights.find((weight) => isByHalves(beat.div(length).mul(weight + shorts)));
  const weight = (ratio === 'triplet' ? undefined : byHalves) ?? weights[0];
  return weight === undefined ? null : cell(weight, length);
};

/** Whether so many units to the beat come of halving it. */
const isByHalves = ({ n, d }: Fraction): boolean => d === 1n && (n & (n - 1n)) === 0n;

/** One note of each group long, the others quick, in whole beats; every place of the long note in turn. */
export const LONG_SHORT: Method<z.infer<typeof Parameters>> = {
  id: 'long-short',
  name: 'Long and short',
  about: 'One note of each group is held and the others are quick, so that every connection is once played fast.',
  category: 'even',
  stage: 'rhythm',
  keepsOthers: true,
  parameters: Parameters,
  fields: [
    numberField('size', 'Groups of', [0, 2, 3, 4, 5, 6], (n) => (n === 0 ? 'what the beat has' : String(n))),
    numberField('long', 'The long note', [0, 1, 2, 3, 4, 5, 6], (n) =>
      n === 0 ? 'each in turn' : `the ${n}${ORDINALS[n] ?? 'th'}`,
    ),
    wordField('ratio', 'It lasts', {
      dotted: 'at least 3 to 1',
      triplet: 'at least 2 to 1',
      half: 'half of the group',
      held: 'held for a beat',
    }),
  ],
  drills: (grid, parameters) => {
    const { long, ratio } = parameters;
    const size = parameters.size >= 2 ? parameters.size : hasThrees(grid) ? 3 : 2;
    const places = long >= 1 && long <= size ? [long] : Array.from({ length: size }, (_, k) => k + 1);
    return places.map((place) =>
      makeDrill(
        'long-short',
        { ...parameters, size, long: place },
        inCells(grid, size, (group) => longShort(group, place - 1, ratio)),
        { place, size },
      ),
    );
  },
};
