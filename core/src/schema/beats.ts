import { bisector } from 'd3-array';
import Fraction from 'fraction.js';

/**
 * An exact musical position or length, counted in beats of a beat unit and written as a fraction:
 * `"1/4"`, `"-1/2"`, `"3"`. Text, so that it survives JSON without rounding.
 */
export type Beats = string;

/** The same, to be reckoned with: a rational number without rounding. */
export type Exact = Fraction;

/** Reads a `Beats` text. Throws on anything that is not a whole number or a fraction. */
export const beats = (value: Beats | number | Fraction): Fraction => new Fraction(value);

/** Writes an exact number of beats in its shortest form. */
export const writeBeats = (value: Fraction): Beats => value.toFraction();

/** The position as an ordinary number, for times and drawing (never for adding up). */
export const beatsNumber = (value: Beats): number => beats(value).valueOf();

/** Finds a place among exact positions in ascending order: `left` of those that equal it, or `right`. */
export const exactBisector = bisector((a: Fraction, b: Fraction) => a.compare(b));
