import type Fraction from 'fraction.js';
import { beats } from '../../schema/beats';

/** How a length is written: a note value with dots, perhaps within a tuplet. */
export interface WrittenValue {
  /** 1, 2, 4 … 64: the undotted value, as the number that divides the whole note. */
  value: number;
  dots: 0 | 1 | 2;
  /** So many notes in the time of so many; absent outside tuplets. */
  tuplet?: { actual: number; normal: number };
}

const VALUES = [1, 2, 4, 8, 16, 32, 64];
const DOTS = ['1', '3/2', '7/4'] as const;
/** The usual tuplets: so many notes in the time of so many. */
const TUPLETS = [
  [3, 2],
  [5, 4],
  [7, 4],
  [6, 4],
  [9, 8],
  [11, 8],
  [13, 8],
  [15, 8],
  [2, 3],
  [4, 3],
] as const;

const plain = (length: Fraction): Pick<WrittenValue, 'value' | 'dots'> | null => {
  for (const value of VALUES)
    for (const [dots, factor] of DOTS.entries())
      if (length.mul(value).equals(beats(factor))) return { value, dots: dots as WrittenValue['dots'] };
  return null;
};

/** How a length in whole notes is written by one symbol, or null where none says it. Plain values first, then the commonest tuplet. */
export const writtenValue = (length: Fraction): WrittenValue | null => {
  const own = plain(length);
  if (own) return own;
  for (const [actual, normal] of TUPLETS) {
    const inside = plain(length.mul(actual).div(normal));
    if (inside && inside.dots < 2) return { ...inside, tuplet: { actual, normal } };
  }
  return null;
};

/** A length in the pieces that symbols can say, longest first, to be tied or rested one after the other. */
const writablePieces = (length: Fraction): Fraction[] => {
  if (writtenValue(length)) return [length];
  const out: Fraction[] = [];
  let rest = length;
  for (const value of ['1', '1/2', '1/4', '1/8', '1/16', '1/32', '1/64'])
    while (rest.compare(beats(value)) >= 0) {
      out.push(beats(value));
      rest = rest.sub(beats(value));
      if (writtenValue(rest)) return [...out, rest];
    }
  return rest.compare(0) > 0 ? [...out, rest] : out;
};

const gcd = (a: bigint, b: bigint): bigint => (b === 0n ? a : gcd(b, a % b));

/** The least number that every denominator divides. */
export const commonDenominator = (values: readonly Fraction[]): number =>
  Number(values.reduce((sum, { d }) => (sum / gcd(sum, d)) * d, 1n));

/** The division that a place belongs to: its denominator without powers of two; 1 where it is none but halves. */
const divisionAt = (place: Fraction): bigint => {
  let division = place.d;
  while (division % 2n === 0n) division /= 2n;
  return division;
};

/**
 * The stretch between two places of a bar (in beats from its beginning), in pieces that symbols can say, in whole notes. Where one division
 * of the beat leads into another, it is cut at the beats between them.
 */
export const piecesBetween = (from: Fraction, to: Fraction, unit: Fraction): Fraction[] => {
  const [before, after] = [divisionAt(from), divisionAt(to)];
  const isOneDivision = before === 1n || after === 1n || before === after;
  const plainly = writablePieces(to.sub(from).mul(unit));
  if (isOneDivision && plainly.every(writtenValue)) return plainly;
  const edges = [from];
  for (let beat = from.floor().add(1); beat.compare(to) < 0; beat = beat.add(1)) edges.push(beat);
  edges.push(to);
  return edges.slice(1).flatMap((edge, k) => writablePieces(edge.sub(edges[k] as Fraction).mul(unit)));
};
