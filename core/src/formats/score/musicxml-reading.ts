import type { Clef, Dynamic, Swing } from '../../schema/notation';

/** How a file stands while its bars are read one after the other. */
export interface Reading {
  divisions: number;
  meter: { count: number; unit: number };
  fifths: number;
  clefs: Map<number, { clef: Clef; octaves: number }>;
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
  slurs: number;
  openSlurs: Map<string, string>;
  endings: number[] | undefined;
  simplified: Set<string>;
}

/** Whether a number counts something. */
export const positive = (value: number | null): value is number => value !== null && Number.isInteger(value) && value > 0;
