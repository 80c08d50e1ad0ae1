import type Fraction from 'fraction.js';
import { AppError } from '../../schema/app-error';
import type { Articulation, Clef, Dynamic, Marks, Pitch, Printed, Swing } from '../../schema/notation';
import type { ScorePart } from './score-parts';

/** A file that cannot be read as music, with a message that says what is wrong and what to do. */
export class UnreadableScore extends AppError {}

/** One note as a file has it. Places and lengths are exact fractions of a whole note. */
export interface ScoreNote {
  /** From the beginning of its bar. */
  offset: Fraction;
  /** 0 for a grace note. */
  length: Fraction;
  pitch: Pitch | null;
  staff: 1 | 2;
  voice: number;
  tie?: boolean;
  grace?: boolean;
  accent?: boolean;
  articulation?: Articulation;
  dynamic?: Dynamic;
  printed?: Printed;
  /** Numbers of the slurs that begin and end here. */
  slurStarts?: string[];
  slurStops?: string[];
  marks: Marks;
}

/** One bar of the page. */
export interface ScoreBar {
  /** Its number on the page. */
  number: number;
  /** What it holds, in whole notes: less than its meter for a pickup. */
  length: Fraction;
  meter: { count: number; unit: number };
  fifths: number;
  notes: ScoreNote[];
  startsRepeat?: boolean;
  /** How often what is repeated is played in all, where a repeat ends here. */
  endsRepeat?: number;
  /** The times at which it is played, where it belongs to an ending. */
  endings?: number[];
  /** The name of the sign, as jumps to it say; mostly empty. */
  segno?: string;
  coda?: boolean;
  fine?: boolean;
  toCoda?: boolean;
  jump?: 'da capo' | 'dal segno';
  /** The name of the segno that is jumped to, where there are several. */
  jumpTo?: string;
}

/** Music as a file has it, before repeats are written out. */
export interface Score {
  title: string;
  clefs: Clef[];
  /** What the part is called that this is, where the file says so. */
  partName?: string;
  /** Semitones from the written pitch to the sounding one. */
  transposition: number;
  /** The note value of the beat, where the file says so. */
  beatUnit?: string;
  /** A tempo, and the note value that it counts: the beat where nothing is said. */
  bpm?: number;
  bpmUnit?: string;
  /** How its eighths swing; straight where absent. */
  swing?: Swing;
  bars: ScoreBar[];
  /** What can be taken of the file instead; absent where there is nothing to choose. */
  parts?: readonly ScorePart[];
  /** What could not be taken over as it stands, one sentence each. */
  simplified: string[];
}

/** Files of more bars than this, written out, are no exercise. */
export const MAX_BARS = 2000;
export const MAX_NOTES = 20_000;
