import type Fraction from 'fraction.js';
import type { Clef, Dynamic, Swing } from '../../schema/notation';

/** How a file stands while its bars are read one after the other. */
export interface Reading {
  divisions: number;
  meter: { count: number; unit: number };
  fifths: number;
  /** The clef that each staff begins with, and its changes: where in the bar that is read, those of the bars before at 0. */
  clefs: Map<number, { first: Clef; octaves: number; changes: { at: Fraction; clef: Clef }[] }>;
  /** Semitones from the written pitch to the sounding one, as the part begins. */
  transposition: number;
  /** How many semitones higher what is written now is to be written, for the transposition that the part began with. */
  shift: number;
  /** Of how many bars before those without notes are a repetition, as a sign over them says; 0 for none. */
  repeatedBars: number;
  voices: Map<string, number>;
  beatUnit?: string;
  bpm?: number;
  bpmUnit?: string;
  /** How eighths swing, as the beginning says. */
  swing?: Swing;
  /** The keys of General MIDI that unpitched instruments of the part sound as, by their id. */
  drums: ReadonlyMap<string, number>;
  dynamic: Map<number, Dynamic>;
  /** The chord symbols of the bar that is read, and where they stand. */
  chords: { at: Fraction; name: string }[];
  slurs: number;
  openSlurs: Map<string, string>;
  endings: number[] | undefined;
  simplified: Set<string>;
}

/** Whether a number counts something. */
export const positive = (value: number | null): value is number => value !== null && Number.isInteger(value) && value > 0;
