import { z } from 'zod';
import { spelledPitch } from '../../formats/score/pitch-spelling';
import { numberField, wordField } from '../../rhythm/methods/fields';
import type { Hand, Marks, Pitch } from '../../schema/notation';
import { isInRange } from './keys';
import type { Pattern } from './pattern';
import { meterField, PATTERN_METER_NAMES } from './pattern-frame';
import { type PatternNote, patternPassage } from './pattern-passage';

/**
 * The rudiments of drumming (common practice, from memory). A stroke is R or L; small letters before it are grace notes, z behind it lets it
 * buzz, > accents it, a number is how many of the pattern's notes it lasts.
 */
const RUDIMENTS = {
  singles: { name: 'single strokes', strokes: 'R L R L', perBeat: 4 },
  doubles: { name: 'double strokes, open roll', strokes: 'R R L L', perBeat: 4 },
  triples: { name: 'triple strokes', strokes: 'R R R L L L', perBeat: 3 },
  'single-paradiddle': { name: 'single paradiddle', strokes: 'R> L R R L> R L L', perBeat: 4 },
  'double-paradiddle': { name: 'double paradiddle', strokes: 'R> L R L R R L> R L R L L', perBeat: 3 },
  'triple-paradiddle': { name: 'triple paradiddle', strokes: 'R> L R L R L R R L> R L R L R L L', perBeat: 4 },
  'paradiddle-diddle': { name: 'paradiddle-diddle', strokes: 'R> L R R L L', perBeat: 3 },
  'five-stroke': { name: 'five-stroke roll', strokes: 'R R L L R>4 L L R R L>4', perBeat: 8 },
  'seven-stroke': { name: 'seven-stroke roll', strokes: 'R R L L R R L>2', perBeat: 8 },
  'nine-stroke': { name: 'nine-stroke roll', strokes: 'R R L L R R L L R>8 L L R R L L R R L>8', perBeat: 8 },
  buzz: { name: 'buzz strokes', strokes: 'Rz Lz', perBeat: 2 },
  'buzz-roll': { name: 'buzz roll', strokes: 'Rz Lz Rz Lz', perBeat: 4 },
  flam: { name: 'flams', strokes: 'lR rL', perBeat: 2 },
  'flam-tap': { name: 'flam taps', strokes: 'lR> R rL> L', perBeat: 4 },
  'flam-accent': { name: 'flam accents', strokes: 'lR> L R rL> R L', perBeat: 3 },
  'flam-paradiddle': { name: 'flam paradiddle', strokes: 'lR> L R R rL> R L L', perBeat: 4 },
  drag: { name: 'drags', strokes: 'llR rrL', perBeat: 2 },
  'drag-tap': { name: 'drag taps', strokes: 'llR L> rrL R>', perBeat: 2 },
  ratamacue: { name: 'ratamacue', strokes: 'llR L R L>3 rrL R L R>3', perBeat: 3 },
} as const satisfies Record<string, { name: string; strokes: string; perBeat: number }>;
type RudimentId = keyof typeof RUDIMENTS;

/** A limb: what is written beside its notes, and its key of General MIDI where there is a kit. */
interface Limb {
  marks: Marks;
  midi: number;
}
const RIGHT_HAND: Limb = { marks: { hand: 'right' }, midi: 38 };
const LEFT_HAND: Limb = { marks: { hand: 'left' }, midi: 38 };
const RIGHT_FOOT: Limb = { marks: { sign: 'RF' }, midi: 36 };
const LEFT_FOOT: Limb = { marks: { sign: 'LF' }, midi: 44 };

const MIRRORED = new Map<Limb, Limb>([
  [RIGHT_HAND, LEFT_HAND],
  [LEFT_HAND, RIGHT_HAND],
  [RIGHT_FOOT, LEFT_FOOT],
  [LEFT_FOOT, RIGHT_FOOT],
]);

/** Who plays: what they are called, whether one side leads, and which limb plays a stroke, by its place and the hand that the rudiment names. */
interface Limbs {
  name: string;
  leads: boolean;
  limbOf(hand: Hand, place: number, lead: Hand): Limb;
}

const pair = (name: string, right: Limb, left: Limb): Limbs => ({
  name,
  leads: true,
  limbOf: (hand) => (hand === 'right' ? right : left),
});
const alone = (name: string, limb: Limb): Limbs => ({ name, leads: false, limbOf: () => limb });
/** The strokes go round, whatever hand the rudiment names; led by the left, with the other side throughout. */
const inTurn = (name: string, ...limbs: [Limb, ...Limb[]]): Limbs => ({
  name,
  leads: true,
  limbOf: (_, place, lead) => {
    const limb = limbs[place % limbs.length] ?? limbs[0];
    return lead === 'right' ? limb : (MIRRORED.get(limb) ?? limb);
  },
});

/** Who plays the strokes: a pair shares right and left, a single limb has them all, three or four take turns. */
const LIMBS = {
  hands: pair('two hands', RIGHT_HAND, LEFT_HAND),
  feet: pair('two feet', RIGHT_FOOT, LEFT_FOOT),
  'right-side': pair('right hand, right foot', RIGHT_HAND, RIGHT_FOOT),
  'left-side': pair('left hand, right foot', RIGHT_FOOT, LEFT_HAND),
  'right-across': pair('right hand, left foot', RIGHT_HAND, LEFT_FOOT),
  'left-left': pair('left hand, left foot', LEFT_HAND, LEFT_FOOT),
  'right-hand': alone('the right hand alone', RIGHT_HAND),
  'left-hand': alone('the left hand alone', LEFT_HAND),
  'right-foot': alone('the right foot alone', RIGHT_FOOT),
  'left-foot': alone('the left foot alone', LEFT_FOOT),
  three: inTurn('hands and a foot', RIGHT_HAND, LEFT_HAND, RIGHT_FOOT),
  four: inTurn('hands and feet', RIGHT_HAND, LEFT_HAND, RIGHT_FOOT, LEFT_FOOT),
} as const satisfies Record<string, Limbs>;
type LimbsId = keyof typeof LIMBS;

const Parameters = z.object({
  rudiment: z.enum(Object.keys(RUDIMENTS) as [RudimentId, ...RudimentId[]]).default('single-paradiddle'),
  limbs: z.enum(Object.keys(LIMBS) as [LimbsId, ...LimbsId[]]).default('hands'),
  lead: z.enum(['right', 'left']).default('right'),
  times: z.number().int().min(1).max(16).default(4),
  meter: z.enum(PATTERN_METER_NAMES).default('4/4'),
});

interface Stroke {
  hand: Hand;
  graces: string;
  buzzes: boolean;
  accent: boolean;
  times: number;
}

/** The strokes of a rudiment, the other hand leading where that is asked for. */
const strokesOf = (text: string, lead: Hand): Stroke[] =>
  text.split(' ').map((word) => {
    const [, graces = '', letter, buzz, accent, times] = /^([rl]*)([RL])(z?)(>?)(\d*)$/.exec(word) ?? [];
    const hand = (letter === 'R') === (lead === 'right') ? 'right' : 'left';
    return { hand, graces, buzzes: buzz === 'z', accent: accent === '>', times: Number(times || 1) };
  });

/** A rudiment over and over, by hands, by feet, by one of each, by one limb alone, or by three or four in turn. */
export const RUDIMENT: Pattern<z.infer<typeof Parameters>> = {
  id: 'rudiment',
  name: 'Rudiment',
  about: 'Paradiddles, rolls, flams and drags, led by either hand, by the feet, by a hand and a foot, or by one limb alone.',
  suits: ({ clefs, marks }) => clefs[0] === 'percussion' || marks.includes('stick'),
  parameters: Parameters,
  fields: ({ clefs }) => [
    wordField('rudiment', 'Rudiment', Object.fromEntries(Object.entries(RUDIMENTS).map(([id, { name }]) => [id, name]))),
    ...(clefs[0] === 'percussion'
      ? [wordField('limbs', 'Played by', Object.fromEntries(Object.entries(LIMBS).map(([id, { name }]) => [id, name])))]
      : []),
    wordField('lead', 'Begins with', { right: 'the right', left: 'the left' }),
    numberField('times', 'Times', [1, 2, 4, 8, 16]),
    meterField(),
  ],
  make(parameters, instrument) {
    const { rudiment, lead, times, meter } = parameters;
    const { name, strokes: text, perBeat } = RUDIMENTS[rudiment];
    const isPercussion = instrument.clefs[0] === 'percussion';
    const limbs = LIMBS[isPercussion ? parameters.limbs : 'hands'];
    const strokes = strokesOf(text, lead);
    const middle: Pitch = { ...instrument.lowest, octave: instrument.lowest.octave + 1 };
    // A pad has one place; a kit has one for each limb.
    const isKit = isInRange(spelledPitch(RIGHT_FOOT.midi, 0), instrument);
    const pitchOf = ({ midi }: Limb): Pitch | null => (!isPercussion ? middle : isKit ? spelledPitch(midi, 0) : null);
    const noteOf = ({ hand, graces, buzzes, accent, times: lasts }: Stroke, place: number): PatternNote => {
      const limb = limbs.limbOf(hand, place, lead);
      return {
        pitch: pitchOf(limb),
        marks: limb.marks,
        accent,
        times: lasts,
        ...(buzzes ? { printed: { ornament: 'buzz' as const } } : {}),
        ...(graces ? { graces: { count: graces.length, hand: hand === 'right' ? 'left' : 'right' } } : {}),
      };
    };
    const [first] = strokes;
    return patternPassage({
      id: 'pattern',
      title: `${name.charAt(0).toUpperCase()}${name.slice(1)}${parameters.limbs === 'hands' || !isPercussion ? '' : `, ${limbs.name}`}`,
      about: limbs.leads ? `${times} times, beginning with the ${lead}.` : `${times} times.`,
      instrument,
      perBeat,
      meter,
      goalBpm: 90,
      variant: limbs.leads ? `the ${lead} leads` : limbs.name,
      notes: [
        ...Array.from({ length: times }, () => strokes)
          .flat()
          .map(noteOf),
        ...(first ? [noteOf({ ...first, graces: '', buzzes: false, accent: false, times: 1 }, times * strokes.length)] : []),
      ],
      parameters,
      generator: 'rudiment',
    });
  },
};
