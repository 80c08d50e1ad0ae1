import type Fraction from 'fraction.js';
import { beats } from '../schema/beats';
import type { Clef, Pitch, Printed } from '../schema/notation';

/** A clef: its sign, the line that it stands on, counted from the lowest as 1, and what is written on the lowest line. */
export interface ClefPlace {
  sign: 'G' | 'F' | 'C' | 'percussion';
  line: number;
  lowest: Pick<Pitch, 'step' | 'octave'>;
}

/** Every clef with its place (common practice). A kit is written in places of its own, as if under a treble clef. */
export const CLEFS: Readonly<Record<Clef, ClefPlace>> = {
  treble: { sign: 'G', line: 2, lowest: { step: 'E', octave: 4 } },
  bass: { sign: 'F', line: 4, lowest: { step: 'G', octave: 2 } },
  soprano: { sign: 'C', line: 1, lowest: { step: 'C', octave: 4 } },
  'mezzo-soprano': { sign: 'C', line: 2, lowest: { step: 'A', octave: 3 } },
  alto: { sign: 'C', line: 3, lowest: { step: 'F', octave: 3 } },
  tenor: { sign: 'C', line: 4, lowest: { step: 'D', octave: 3 } },
  baritone: { sign: 'C', line: 5, lowest: { step: 'B', octave: 2 } },
  percussion: { sign: 'percussion', line: 3, lowest: { step: 'E', octave: 4 } },
};

/** The clef with this sign on this line; the third F clef has its notes where the baritone has them. Null where there is none. */
export const clefOn = (sign: string, line: number): Clef | null => {
  if (sign === 'percussion') return 'percussion';
  if (sign === 'F' && line === 3) return 'baritone';
  const found = Object.entries(CLEFS).find(([, place]) => place.sign === sign && place.line === line);
  return found ? (found[0] as Clef) : null;
};

/** A note as far as its clef goes. */
interface Clefed {
  at: string;
  staff: number;
  printed?: Printed | undefined;
}

/** Follows the notes of a voice: tells of each the clef that begins with it, null where the one before holds on. */
export const clefFollower = (begins: Clef): ((note: Pick<Clefed, 'printed'>) => Clef | null) => {
  let now = begins;
  return ({ printed }) => {
    const before = now;
    now = printed?.clef ?? begins;
    return now === before ? null : now;
  };
};

/**
 * Where the clef of a staff changes, in beats from the first downbeat, in order: at the first note that stands in another one. Empty where
 * the clef that it begins with stays.
 */
export const clefChanges = (notes: readonly Clefed[], begins: Clef, staff: number): { at: Fraction; clef: Clef }[] => {
  const own = notes.filter((note) => note.staff === staff);
  if (!own.some(({ printed }) => printed?.clef)) return [];
  const turn = clefFollower(begins);
  return own
    .map(({ at, printed }) => ({ at: beats(at), printed }))
    .sort((a, b) => a.at.compare(b.at))
    .flatMap((note) => {
      const clef = turn(note);
      return clef ? [{ at: note.at, clef }] : [];
    });
};
