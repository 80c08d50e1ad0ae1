import { range } from 'd3-array';
import { z } from 'zod';
import { numberField, wordField } from '../../rhythm/methods/fields';
import { midiOf } from '../../rhythm/pitch';
import type { MusicalInstrument } from '../../schema/instrument';
import type { Hand, Marks, Pitch } from '../../schema/notation';
import { keyboardFinger } from './keyboard-fingering';
import { above, isInRange, lowestTonic, signatureOf, TONICS, tonicField, tonicName } from './keys';
import { canSoundTogether, isPolyphonic, isTwoHanded, startsInOrder } from './melodic-range';
import { ANYWHERE, type Placing, placeField, placeWords, placingOf } from './on-strings';
import type { Pattern } from './pattern';
import { meterField, PATTERN_METER_NAMES } from './pattern-frame';
import { type PatternNote, patternPassage } from './pattern-passage';
import { SCALE_KINDS, type ScaleId, type ScaleKind } from './scale-kinds';

/** How many steps lie between two notes that belong together, and what musicians call that in a scale of seven. */
const INTERVALS: Readonly<Record<number, string>> = {
  1: 'steps',
  2: 'thirds',
  3: 'fourths',
  4: 'fifths',
  5: 'sixths',
  7: 'octaves',
  9: 'tenths',
};
/** How many notes lie between the two, where a scale has not seven. */
const LEFT_OUT = ['none', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight'];
/** Who plays, in few words to choose from. */
const HANDS = {
  one: 'one line',
  right: 'right',
  left: 'left',
  parallel: 'both, parallel',
  contrary: 'both, contrary',
} as const;
/** The same in a title. */
const HAND_WORDS: Record<Hands, string> = {
  one: '',
  right: ', right hand',
  left: ', left hand',
  parallel: ', hands together',
  contrary: ', hands in contrary motion',
};
type Hands = keyof typeof HANDS;
/** Octaves that stand for all that the instrument has. */
const WHOLE_RANGE = 0;

const Parameters = z.object({
  tonic: z.enum(TONICS).default('C'),
  scale: z.enum(Object.keys(SCALE_KINDS) as [ScaleId, ...ScaleId[]]).default('major'),
  octaves: z.number().int().min(WHOLE_RANGE).max(4).default(1),
  /** Steps from one note to the one that belongs to it: 2 for thirds … */
  interval: z.number().int().min(1).max(9).default(1),
  /** Whether the two notes of an interval follow each other or sound at once. */
  sound: z.enum(['broken', 'together']).default('broken'),
  hands: z.enum(Object.keys(HANDS) as [Hands, ...Hands[]]).default('one'),
  /** In which position, or along which string, it is played, where the instrument has strings. */
  place: z.string().max(20).default(ANYWHERE),
  meter: z.enum(PATTERN_METER_NAMES).default('4/4'),
  perBeat: z.number().int().min(1).max(8).default(4),
});
type ScaleParameters = z.infer<typeof Parameters>;

/** One place of a scale, by its degree from the tonic; falling scales may have other notes. */
interface Degree {
  degree: number;
  falls: boolean;
  /** The degree that sounds with it. */
  with?: number;
}

const rising = (degrees: readonly number[]): Degree[] => degrees.map((degree) => ({ degree, falls: false }));
const falling = (degrees: readonly number[]): Degree[] => degrees.map((degree) => ({ degree, falls: true }));

/** Up from the tonic and down again: plain, in broken intervals, or with a second note that sounds at once. */
const upAndDown = (top: number, interval: number, isTogether: boolean): Degree[] => {
  const plain = [...rising(range(top + 1)), ...falling(range(top - 1, -1, -1))];
  if (interval === 1) return plain;
  if (isTogether) return plain.map((one) => ({ ...one, with: one.degree + interval }));
  const pairs = (from: number, by: number) =>
    range(top + 1 - interval).flatMap((k) => [from + by * k, from + by * (k + interval)]);
  return [...rising(pairs(0, 1)), ...falling([...pairs(top, -1), 0])];
};

/** From the tonic to the highest note, to the lowest and back. */
const throughRange = (lowest: number, highest: number): Degree[] => [
  ...rising(range(highest + 1)),
  ...falling(range(highest - 1, lowest - 1, -1)),
  ...rising(range(lowest + 1, 1)),
];

/** The notes of a scale from a tonic on. */
const pitchesOf =
  (first: Pitch, { notes, falling: down = notes }: ScaleKind) =>
  (degree: number, falls: boolean): Pitch => {
    const octave = Math.floor(degree / notes.length);
    const [step, semitones] = (falls ? down : notes)[degree - octave * notes.length] as readonly [number, number];
    return above(first, 7 * octave + step, 12 * octave + semitones);
  };

/** Lines of a scale as an instrument has room for: upper, and lower where both hands play. */
const linesOf = (parameters: ScaleParameters, kind: ScaleKind, instrument: MusicalInstrument, placing: Placing | null) => {
  const { tonic, interval, hands } = parameters;
  // Two at once would need two fingers' places.
  const isTogether = parameters.sound === 'together' && isPolyphonic(instrument) && !placing;
  const inOctave = kind.notes.length;
  const first = lowestTonic(tonic, instrument);
  const isBoth = hands === 'parallel' || hands === 'contrary';
  const pitchAt = pitchesOf(first, kind);
  const isPlayable = ({ degree, falls, with: upper }: Degree, shift: number): boolean => {
    const at = (one: number) => pitchAt(one + shift * inOctave, falls);
    if (!isInRange(at(degree), instrument) || placing?.(at(degree)) === null) return false;
    return upper === undefined || (isInRange(at(upper), instrument) && canSoundTogether(instrument, at(degree), at(upper)));
  };
  const wanted = parameters.octaves === WHOLE_RANGE ? 8 : parameters.octaves;
  // At least so many that an interval fits in.
  const least = isTogether ? 1 : Math.ceil((interval + 1) / inOctave);
  for (let octaves = Math.max(wanted, least); octaves >= least; octaves -= 1) {
    const upper = upAndDown(octaves * inOctave, interval, isTogether);
    const lower = isBoth
      ? upper.map(
          ({ degree, falls }): Degree =>
            hands === 'parallel' ? { degree: degree - inOctave, falls } : { degree: -degree - inOctave, falls: !falls },
        )
      : null;
    for (const shift of startsInOrder(first, octaves, instrument))
      if ([...upper, ...(lower ?? [])].every((one) => isPlayable(one, shift)))
        return { octaves, interval, upper, lower, placing, from: { ...first, octave: first.octave + shift } };
  }
  // No room for such intervals: plain, by one hand, anywhere.
  return { octaves: 1, interval: 1, upper: upAndDown(inOctave, 1, false), lower: null, placing: null, from: first };
};

/** A scale in any key, up and down, plain or in intervals, for one hand or two, within the instrument's range. */
export const SCALE: Pattern<ScaleParameters> = {
  id: 'scale',
  name: 'Scale',
  about: 'Up and down through a key: plain, in thirds, sixths or octaves, one after the other or at once, for one hand or two.',
  suits: ({ clefs }) => clefs[0] !== 'percussion',
  parameters: Parameters,
  fields: (instrument) => [
    tonicField('Key'),
    wordField('scale', 'Scale', Object.fromEntries(Object.entries(SCALE_KINDS).map(([id, { name }]) => [id, name]))),
    numberField('octaves', 'Octaves', [1, 2, 3, 4, WHOLE_RANGE], (n) => (n === WHOLE_RANGE ? 'all there are' : String(n))),
    numberField('interval', 'In', Object.keys(INTERVALS).map(Number), (n) => INTERVALS[n] as string),
    ...(isPolyphonic(instrument) ? [wordField('sound', 'Two notes', { broken: 'in turn', together: 'at once' })] : []),
    ...(isTwoHanded(instrument) ? [wordField('hands', 'Hands', HANDS)] : []),
    ...placeField(instrument),
    meterField(),
    numberField('perBeat', 'Notes to the beat', [1, 2, 3, 4, 6, 8]),
  ],
  make(parameters, given) {
    const { tonic, scale, hands, meter, perBeat } = parameters;
    const kind: ScaleKind = SCALE_KINDS[scale];
    const instrument = hands === 'left' && given.clefs[1] ? { ...given, clefs: [given.clefs[1]] } : given;
    const played = isTwoHanded(given) ? hands : 'one';
    const wholeRange = parameters.octaves === WHOLE_RANGE && parameters.interval === 1 && played === 'one';
    const { octaves, interval, upper, lower, placing, from } = linesOf(
      { ...parameters, hands: played },
      kind,
      given,
      placingOf(given, parameters.place),
    );
    const pitchAt = pitchesOf(from, kind);
    const inOctave = kind.notes.length;
    const reach = (by: 1 | -1) => {
      let degree = 0;
      const isThere = (pitch: Pitch) => isInRange(pitch, given) && placing?.(pitch) !== null;
      while (isThere(pitchAt(degree + by, false)) && isThere(pitchAt(degree + by, true))) degree += by;
      return degree;
    };
    const degrees = wholeRange ? throughRange(reach(-1), reach(1)) : upper;
    // Harps have other fingers, and intervals as well.
    const mode = given.profileId === 'struck' && interval === 1 ? FINGERED[scale] : undefined;
    const notesOf = (line: readonly Degree[], hand: Hand | null): PatternNote[] => {
      const all = line.map(({ degree }) => degree);
      const ends = [Math.min(...all), Math.max(...all)] as const;
      const fingersOf = (degree: number): Marks =>
        hand && mode ? { finger: String(keyboardFinger(mode, midiOf(from) % 12, hand, degree, ends)) } : {};
      return line.map(({ degree, falls, with: other }) => ({
        pitch: pitchAt(degree, falls),
        ...(other === undefined ? {} : { with: pitchAt(other, falls) }),
        ...(hand ? { marks: { hand, ...fingersOf(degree) } } : {}),
        ...(placing ? { marks: placing(pitchAt(degree, falls)) ?? {} } : {}),
      }));
    };
    const words = [
      interval === 1 ? '' : inOctave === 7 ? ` in ${INTERVALS[interval]}` : `, ${LEFT_OUT[interval - 1]} left out each time`,
      HAND_WORDS[played],
      placing ? `, ${placeWords(parameters.place)}` : '',
    ].join('');
    return patternPassage({
      id: 'pattern',
      title: `${tonicName(tonic)} ${kind.name}${words}`,
      about: `${wholeRange ? (placing ? 'As far as it goes there' : 'As far as the instrument goes') : `${octaves} ${octaves === 1 ? 'octave' : 'octaves'}`}, ${perBeat} to the beat.`,
      instrument,
      perBeat,
      meter,
      fifths: signatureOf(tonic, kind.away),
      goalBpm: 100,
      variant: mode || placing ? 'usual fingering' : 'as written',
      notes: notesOf(degrees, played === 'one' ? null : played === 'left' ? 'left' : 'right'),
      ...(lower ? { lower: notesOf(lower, 'left') } : {}),
      parameters: {
        ...parameters,
        interval,
        octaves: wholeRange ? WHOLE_RANGE : octaves,
        place: placing ? parameters.place : ANYWHERE,
        ...(placing ? { sound: 'broken' } : {}),
      },
      generator: 'scale',
    });
  },
};

/** Scales that have a usual fingering at the keyboard. */
const FINGERED: Partial<Record<ScaleId, 'major' | 'minor'>> = {
  major: 'major',
  'natural-minor': 'minor',
  'harmonic-minor': 'minor',
};
