/** A chord: each of its notes by its step and its semitones above the root. */
export interface ChordKind {
  name: string;
  notes: readonly (readonly [step: number, semitones: number])[];
  /** How far its signature lies from the major key's, in fifths. */
  away: number;
}

/** Notes in thirds: root, third, fifth and so on. */
const thirds = (...semitones: number[]) => semitones.map((one, k) => [2 * k, one] as const);

/** Chords as handbooks of harmony have them (common practice, from memory). To add one, add it here. */
export const CHORD_KINDS = {
  major: { name: 'major', notes: thirds(0, 4, 7), away: 0 },
  minor: { name: 'minor', notes: thirds(0, 3, 7), away: -3 },
  diminished: { name: 'diminished', notes: thirds(0, 3, 6), away: -3 },
  augmented: { name: 'augmented', notes: thirds(0, 4, 8), away: 0 },
  'suspended-fourth': {
    name: 'suspended fourth',
    notes: [
      [0, 0],
      [3, 5],
      [4, 7],
    ],
    away: 0,
  },
  sixth: {
    name: 'sixth',
    notes: [
      [0, 0],
      [2, 4],
      [4, 7],
      [5, 9],
    ],
    away: 0,
  },
  'minor-sixth': {
    name: 'minor sixth',
    notes: [
      [0, 0],
      [2, 3],
      [4, 7],
      [5, 9],
    ],
    away: -3,
  },
  dominant: { name: 'dominant seventh', notes: thirds(0, 4, 7, 10), away: -1 },
  'major-seventh': { name: 'major seventh', notes: thirds(0, 4, 7, 11), away: 0 },
  'minor-seventh': { name: 'minor seventh', notes: thirds(0, 3, 7, 10), away: -3 },
  'minor-major-seventh': { name: 'minor with major seventh', notes: thirds(0, 3, 7, 11), away: -3 },
  'half-diminished': { name: 'half-diminished seventh', notes: thirds(0, 3, 6, 10), away: -3 },
  'diminished-seventh': { name: 'diminished seventh', notes: thirds(0, 3, 6, 9), away: -3 },
} as const satisfies Record<string, ChordKind>;

export type ChordId = keyof typeof CHORD_KINDS;
