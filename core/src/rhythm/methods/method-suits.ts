import type { Grid } from '../../schema/grid';
import type { Profile } from '../../signal/profiles';
import { handOfNote } from './hands';
import type { FieldNeed, Method, MethodNeed } from './method';

/** What is played, and on what. */
export interface PlayedOn {
  grid: Grid;
  /** The sound of the instrument; the needs of a family that is not known are met. */
  family: Profile['family'];
}

const isOneOf = (family: Profile['family'], ...families: readonly Profile['family'][]): boolean =>
  family === null || families.includes(family);

/** Whether a need is met (common practice): who plays what in which way. */
const MEETS: Record<MethodNeed | FieldNeed, (played: PlayedOn) => boolean> = {
  'two-hands': ({ grid }) => {
    const hands = new Set(grid.events.flatMap(({ notes }) => notes.map((note) => handOfNote(note, grid.staves.length))));
    return hands.has('left') && hands.has('right');
  },
  'several-notes': ({ family }) => isOneOf(family, 'struck', 'plucked'),
  'two-limbs': ({ family }) => isOneOf(family, 'struck', 'drum'),
  'held-note': ({ family }) => isOneOf(family, 'bowed', 'blown', 'brass', 'voice'),
  length: ({ family }) => family !== 'drum',
  rebound: ({ family }) => isOneOf(family, 'struck', 'drum', 'bowed'),
  bow: ({ family }) => isOneOf(family, 'bowed'),
  marked: ({ grid }) => grid.events.some(({ notes }) => notes.some(({ marks }) => marks.hand || marks.finger)),
};

/** Whether a need is met by what is played and the instrument. */
export const isMet = (need: MethodNeed | FieldNeed | undefined, played: PlayedOn): boolean =>
  need === undefined || MEETS[need](played);

/** Whether a method suits what is played and the instrument; what does not may still be chosen. */
export const methodSuits = ({ needs }: Pick<Method, 'needs'>, played: PlayedOn): boolean => isMet(needs, played);
