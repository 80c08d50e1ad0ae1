import type { AbcPrinted } from './abc-printed';

/** As much of what the package hands on as is read here. Durations are in whole notes, pitches in steps from middle C. */
export interface AbcPitch {
  pitch: number;
  accidental?: string;
  startTie?: object;
  endTie?: boolean;
  startSlur?: { label?: number }[];
  endSlur?: number[];
}

export interface AbcElement extends AbcPrinted {
  el_type: string;
  type?: string;
  duration?: number;
  pitches?: AbcPitch[];
  rest?: { type: string; text?: number };
  gracenotes?: { pitch: number; accidental?: string }[];
  title?: string;
  clefPos?: number;
  startTriplet?: number;
  tripletMultiplier?: number;
  tripletR?: number;
  endTriplet?: boolean;
  startEnding?: string;
  endEnding?: boolean;
  startSlur?: { label?: number }[] | number;
  endSlur?: number[] | number;
  // Changes within a line.
  accidentals?: { acc: string; note: string }[];
  root?: string;
  value?: { num: string; den?: string }[];
}

export interface AbcStaff {
  voices: AbcElement[][];
  /** The names of its voices, where they have any. */
  title?: (string | undefined)[];
  clef?: { type: string; clefPos?: number; transpose?: number };
  key?: { accidentals?: { acc: string; note: string }[]; root?: string };
  meter?: { type: string; value?: { num: string; den?: string }[] };
}

export interface AbcTune {
  lines: { staff?: AbcStaff[] }[];
  metaText: { title?: string; tempo?: { duration?: number[]; bpm?: number }; partOrder?: string };
  warnings?: string[];
}
