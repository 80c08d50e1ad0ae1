/** A scale over one octave: each note by its step and its semitones above the tonic, rising; and how it falls where that is another. */
export interface ScaleKind {
  name: string;
  notes: readonly (readonly [step: number, semitones: number])[];
  falling?: readonly (readonly [step: number, semitones: number])[];
  /** How far its signature lies from the major key's, in fifths. */
  away: number;
}

/** A note on every step of the seven. */
const seven = (...semitones: number[]) => semitones.map((one, step) => [step, one] as const);

const NATURAL_MINOR = seven(0, 2, 3, 5, 7, 8, 10);

/** Scales as handbooks of music theory have them (common practice, from memory). To add one, add it here. */
export const SCALE_KINDS = {
  major: { name: 'major', notes: seven(0, 2, 4, 5, 7, 9, 11), away: 0 },
  'natural-minor': { name: 'natural minor', notes: NATURAL_MINOR, away: -3 },
  'harmonic-minor': { name: 'harmonic minor', notes: seven(0, 2, 3, 5, 7, 8, 11), away: -3 },
  'melodic-minor-both': {
    name: 'melodic minor',
    notes: seven(0, 2, 3, 5, 7, 9, 11),
    falling: NATURAL_MINOR,
    away: -3,
  },
  'melodic-minor': { name: 'melodic minor, rising form', notes: seven(0, 2, 3, 5, 7, 9, 11), away: -3 },
  dorian: { name: 'dorian', notes: seven(0, 2, 3, 5, 7, 9, 10), away: -2 },
  phrygian: { name: 'phrygian', notes: seven(0, 1, 3, 5, 7, 8, 10), away: -4 },
  lydian: { name: 'lydian', notes: seven(0, 2, 4, 6, 7, 9, 11), away: 1 },
  mixolydian: { name: 'mixolydian', notes: seven(0, 2, 4, 5, 7, 9, 10), away: -1 },
  locrian: { name: 'locrian', notes: seven(0, 1, 3, 5, 6, 8, 10), away: -5 },
  'major-pentatonic': {
    name: 'major pentatonic',
    notes: [
      [0, 0],
      [1, 2],
      [2, 4],
      [4, 7],
      [5, 9],
    ],
    away: 0,
  },
  'minor-pentatonic': {
    name: 'minor pentatonic',
    notes: [
      [0, 0],
      [2, 3],
      [3, 5],
      [4, 7],
      [6, 10],
    ],
    away: -3,
  },
  blues: {
    name: 'blues',
    notes: [
      [0, 0],
      [2, 3],
      [3, 5],
      [4, 6],
      [4, 7],
      [6, 10],
    ],
    away: -3,
  },
  'whole-tone': {
    name: 'whole-tone',
    notes: [
      [0, 0],
      [1, 2],
      [2, 4],
      [3, 6],
      [4, 8],
      [6, 10],
    ],
    away: 0,
  },
  'half-whole': {
    name: 'octatonic, semitone first',
    notes: [
      [0, 0],
      [1, 1],
      [2, 3],
      [2, 4],
      [3, 6],
      [4, 7],
      [5, 9],
      [6, 10],
    ],
    away: 0,
  },
  'whole-half': {
    name: 'octatonic, tone first',
    notes: [
      [0, 0],
      [1, 2],
      [2, 3],
      [3, 5],
      [4, 6],
      [5, 8],
      [5, 9],
      [6, 11],
    ],
    away: 0,
  },
  // Sharps up, flats down.
  chromatic: {
    name: 'chromatic',
    notes: [
      [0, 0],
      [0, 1],
      [1, 2],
      [1, 3],
      [2, 4],
      [3, 5],
      [3, 6],
      [4, 7],
      [4, 8],
      [5, 9],
      [5, 10],
      [6, 11],
    ],
    falling: [
      [0, 0],
      [1, 1],
      [1, 2],
      [2, 3],
      [2, 4],
      [3, 5],
      [4, 6],
      [4, 7],
      [5, 8],
      [5, 9],
      [6, 10],
      [6, 11],
    ],
    away: 0,
  },
} as const satisfies Record<string, ScaleKind>;

export type ScaleId = keyof typeof SCALE_KINDS;
