import { z } from 'zod';
import { spelledPitch } from '../../formats/score/pitch-spelling';
import { numberField, wordField } from '../../rhythm/methods/fields';
import type { Hand, Pitch } from '../../schema/notation';
import { isInRange } from './keys';
import type { Pattern } from './pattern';
import { meterField, PATTERN_METER_NAMES } from './pattern-frame';
import { type PatternNote, patternPassage } from './pattern-passage';

/**
 * The rudiments of drumming (common practice, from memory). A stroke is R or L; small letters before it are grace notes, > accents it, a
 * number is how many of the pattern's notes it lasts.
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
  flam: { name: 'flams', strokes: 'lR rL', perBeat: 2 },
  'flam-tap': { name: 'flam taps', strokes: 'lR> R rL> L', perBeat: 4 },
  'flam-accent': { name: 'flam accents', strokes: 'lR> L R rL> R L', perBeat: 3 },
  'flam-paradiddle': { name: 'flam paradiddle', strokes: 'lR> L R R rL> R L L', perBeat: 4 },
  drag: { name: 'drags', strokes: 'llR rrL', perBeat: 2 },
  'drag-tap': { name: 'drag taps', strokes: 'llR L> rrL R>', perBeat: 2 },
  ratamacue: { name: 'ratamacue', strokes: 'llR L R L>3 rrL R L R>3', perBeat: 3 },
} as const satisfies Record<string, { name: string; strokes: string; perBeat: number }>;
type RudimentId = keyof typeof RUDIMENTS;

/** Who plays the right and the left strokes, and on which keys of General MIDI where there is a kit. */
const LIMBS = {
  hands: { name: 'two hands', right: { sign: '', midi: 38 }, left: { sign: '', midi: 38 } },
  feet: { name: 'two feet', right: { sign: 'RF', midi: 36 }, left: { sign: 'LF', midi: 44 } },
  'right-side': { name: 'right hand, right foot', right: { sign: '', midi: 38 }, left: { sign: 'RF', midi: 36 } },
  'left-side': { name: 'left hand, right foot', right: { sign: 'RF', midi: 36 }, left: { sign: '', midi: 38 } },
} as const satisfies Record<string, { name: string } & Record<Hand, { sign: string; midi: number }>>;
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
  accent: boolean;
  times: number;
}

/** The strokes of a rudiment, the other hand leading where that is asked for. */
const strokesOf = (text: string, lead: Hand): Stroke[] =>
  text.split(' ').map((word) => {
    const [, graces = '', letter, accent, times] = /^([rl]*)([RL])(>?)(\d*)$/.exec(word) ?? [];
    const hand = (letter === 'R') === (lead === 'right') ? 'right' : 'left';
    return { hand, graces, accent: accent === '>', times: Number(times || 1) };
  });

/** A rudiment over and over, by hands, by feet, or by one of each. */
export const RUDIMENT: Pattern<z.infer<typeof Parameters>> = {
  id: 'rudiment',
  name: 'Rudiment',
  about: 'Paradiddles, rolls, flams and drags, led by either hand, by the feet, or by a hand and a foot.',
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
    const isKit = isInRange(spelledPitch(LIMBS.feet.right.midi, 0), instrument);
    const pitchOf = (hand: Hand): Pitch | null => (!isPercussion ? middle : isKit ? spelledPitch(limbs[hand].midi, 0) : null);
    const noteOf = ({ hand, graces, accent, times: lasts }: Stroke): PatternNote => ({
      pitch: pitchOf(hand),
      marks: limbs[hand].sign ? { sign: limbs[hand].sign } : { hand },
      accent,
      times: lasts,
      ...(graces ? { graces: { count: graces.length, hand: hand === 'right' ? 'left' : 'right' } } : {}),
    });
    const [first] = strokes;
    return patternPassage({
      id: 'pattern',
      title: `${name.charAt(0).toUpperCase()}${name.slice(1)}${parameters.limbs === 'hands' || !isPercussion ? '' : `, ${limbs.name}`}`,
      about: `${times} times, beginning with the ${lead}.`,
      instrument,
      perBeat,
      meter,
      goalBpm: 90,
      variant: `the ${lead} leads`,
      notes: [
        ...Array.from({ length: times }, () => strokes.map(noteOf)).flat(),
        ...(first ? [noteOf({ ...first, graces: '', accent: false, times: 1 })] : []),
      ],
      parameters,
      generator: 'rudiment',
    });
  },
};
