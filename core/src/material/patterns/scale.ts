import { z } from 'zod';
import { numberField, wordField } from '../../rhythm/methods/fields';
import { midiOf } from '../../rhythm/pitch';
import type { Pitch } from '../../schema/notation';
import { above, isInRange, lowestTonic, signatureOf, TONICS, tonicField, tonicName } from './keys';
import type { Pattern } from './pattern';
import { patternPassage } from './pattern-passage';

/** Scales by their semitones above the tonic, and how far their signature lies from the major key's, in fifths. */
const SCALES = {
  major: { name: 'major', semitones: [0, 2, 4, 5, 7, 9, 11], away: 0 },
  'natural-minor': { name: 'natural minor', semitones: [0, 2, 3, 5, 7, 8, 10], away: -3 },
  'harmonic-minor': { name: 'harmonic minor', semitones: [0, 2, 3, 5, 7, 8, 11], away: -3 },
  'melodic-minor': { name: 'melodic minor, rising form', semitones: [0, 2, 3, 5, 7, 9, 11], away: -3 },
  dorian: { name: 'dorian', semitones: [0, 2, 3, 5, 7, 9, 10], away: -2 },
  mixolydian: { name: 'mixolydian', semitones: [0, 2, 4, 5, 7, 9, 10], away: -1 },
} as const;
type Kind = keyof typeof SCALES;

const Parameters = z.object({
  tonic: z.enum(TONICS).default('C'),
  scale: z.enum(Object.keys(SCALES) as [Kind, ...Kind[]]).default('major'),
  octaves: z.number().int().min(1).max(4).default(1),
  /** Steps that are left out between one note and the next: thirds, fourths … */
  interval: z.number().int().min(1).max(6).default(1),
  perBeat: z.number().int().min(1).max(6).default(4),
});

/** Degrees up and down again: plain, or in broken intervals. */
const degrees = (count: number, interval: number): number[] => {
  if (interval === 1) {
    const up = Array.from({ length: count + 1 }, (_, k) => k);
    return [...up, ...up.slice(0, -1).reverse()];
  }
  const up = Array.from({ length: count + 1 - interval }, (_, k) => [k, k + interval]).flat();
  const down = Array.from({ length: count + 1 - interval }, (_, k) => [count - k, count - k - interval]).flat();
  return [...up, ...down, 0];
};

/** A scale in any key, up and down, plain or in broken intervals, within the instrument's range. */
export const SCALE: Pattern<z.infer<typeof Parameters>> = {
  id: 'scale',
  name: 'Scale',
  about: 'Up and down through a key, plain or in broken thirds, fourths and further.',
  suits: ({ clefs }) => clefs[0] !== 'percussion',
  parameters: Parameters,
  fields: () => [
    tonicField('Key'),
    wordField('scale', 'Scale', Object.fromEntries(Object.entries(SCALES).map(([id, { name }]) => [id, name]))),
    numberField('octaves', 'Octaves', [1, 2, 3, 4]),
    numberField('interval', 'In', [1, 2, 3, 4, 5], (n) => ['steps', 'thirds', 'fourths', 'fifths', 'sixths'][n - 1] as string),
    numberField('perBeat', 'Notes to the beat', [1, 2, 3, 4, 6]),
  ],
  make(parameters, instrument) {
    const { tonic, scale, interval, perBeat } = parameters;
    const { semitones, away, name } = SCALES[scale];
    const first = lowestTonic(tonic, instrument);
    const pitchAt = (degree: number): Pitch =>
      above(first, degree, 12 * Math.floor(degree / 7) + (semitones[((degree % 7) + 7) % 7] as number));
    // As many octaves as the instrument has room for, one at least.
    let octaves = parameters.octaves;
    while (octaves > 1 && !isInRange(pitchAt(7 * octaves), instrument)) octaves -= 1;
    const start = startInMiddle(first, octaves, instrument);
    const shifted = (degree: number): Pitch => ({ ...pitchAt(degree), octave: pitchAt(degree).octave + start });
    const word = ['', '', ' in thirds', ' in fourths', ' in fifths', ' in sixths'][interval] ?? '';
    return patternPassage({
      id: 'pattern',
      title: `${tonicName(tonic)} ${name}${word}`,
      about: `${octaves} ${octaves === 1 ? 'octave' : 'octaves'}, ${perBeat} to the beat.`,
      instrument,
      perBeat,
      fifths: signatureOf(tonic, away),
      goalBpm: 100,
      variant: '',
      notes: degrees(7 * octaves, interval).map((degree) => ({ pitch: shifted(degree) })),
      parameters: { ...parameters, octaves },
      generator: 'scale',
    });
  },
};

/** Octaves by which a pattern of so many octaves is moved up from the lowest tonic, to lie about the middle of the range. */
export const startInMiddle = (
  first: Pitch,
  octaves: number,
  { lowest, highest }: { lowest: Pitch; highest: Pitch },
): number => {
  const room = Math.floor((midiOf(highest) - midiOf(first)) / 12) - octaves;
  const wanted = Math.round((midiOf(lowest) + midiOf(highest)) / 2 - midiOf(first) - 6 * octaves) / 12;
  return Math.max(0, Math.min(room, Math.round(wanted)));
};
