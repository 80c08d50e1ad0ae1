import { wordField } from '../../rhythm/methods/fields';
import { midiOf, stepsUp } from '../../rhythm/pitch';
import type { MusicalInstrument } from '../../schema/instrument';
import type { Marks, Pitch } from '../../schema/notation';
import type { OptionField } from '../../schema/options';

/** How the left hand lies on the strings of an instrument, and the positions that are offered. */
interface Hand {
  /** How far a pitch lies above an open string, as the hand counts: in steps of the scale, or in frets. */
  distance(open: Pitch, pitch: Pitch): number;
  /** How far above the first finger's place the hand reaches, and which finger plays there. */
  reach: number;
  fingerAt(beyondFirst: number): number;
  positions: readonly number[];
}

/** A finger for each step of the scale, low or high: a fifth from string to string is four of them. */
const BY_STEPS: Hand = {
  distance: (open, pitch) => stepsUp(pitch) - stepsUp(open),
  reach: 3,
  fingerAt: (beyond) => beyond + 1,
  positions: [1, 2, 3, 4, 5, 6, 7],
};
/** A finger for each fret; the fourth one stretches where the next string lies five frets higher. */
const BY_FRETS: Hand = {
  distance: (open, pitch) => midiOf(pitch) - midiOf(open),
  reach: 4,
  fingerAt: (beyond) => Math.min(4, beyond + 1),
  positions: [1, 2, 3, 5, 7, 9, 12],
};

/** Where positions are counted so (common practice, from memory). Larger bowed instruments have the fingers closer; they are offered single strings. */
const HANDS: Readonly<Record<string, Hand>> = {
  violin: BY_STEPS,
  viola: BY_STEPS,
  mandolin: BY_STEPS,
  guitar: BY_FRETS,
  'guitar-low-d': BY_FRETS,
  'bass-guitar': BY_FRETS,
};

export const ANYWHERE = 'anywhere';

/** The place of a note: its string, and the finger where the position says it; null where it is not to be had there. */
export type Placing = (pitch: Pitch) => Marks | null;

const inPosition =
  ({ strings }: MusicalInstrument, { distance, reach, fingerAt }: Hand, position: number): Placing =>
  (pitch) => {
    // The highest string that has it: of an open string and a fourth finger the open one.
    for (const { name, pitch: open } of [...strings].sort((a, b) => midiOf(b.pitch) - midiOf(a.pitch))) {
      const beyond = distance(open, pitch) - position;
      const isOpen = position === 1 && midiOf(pitch) === midiOf(open);
      if (isOpen) return { string: name, finger: '0' };
      if (beyond >= 0) return beyond <= reach ? { string: name, finger: String(fingerAt(beyond)) } : null;
    }
    return null;
  };

/** An octave on one string, shifting. */
const ON_ONE_STRING = 12;

const onString =
  (name: string, open: Pitch): Placing =>
  (pitch) => {
    const semitones = midiOf(pitch) - midiOf(open);
    if (semitones < 0 || semitones > ON_ONE_STRING + 2) return null;
    return { string: name, ...(semitones === 0 ? { finger: '0' } : {}) };
  };

/** Where on an instrument's strings something can be played, by what is chosen. */
const placings = (instrument: MusicalInstrument): Map<string, Placing> => {
  const hand = HANDS[instrument.id];
  return new Map([
    ...(hand?.positions ?? []).map((position): [string, Placing] => [
      `position ${position}`,
      inPosition(instrument, hand as Hand, position),
    ]),
    ...instrument.strings.map(({ name, pitch }): [string, Placing] => [`string ${name}`, onString(name, pitch)]),
  ]);
};

/** The choice of a position or a string, for instruments that have strings. */
export const placeField = (instrument: MusicalInstrument): OptionField[] => {
  const names = [...placings(instrument).keys()];
  if (names.length === 0) return [];
  const named = Object.fromEntries(names.map((name) => [name, placeWords(name)]));
  return [wordField('place', 'On the strings', { [ANYWHERE]: ANYWHERE, ...named })];
};

/** A place in words: "in position 3", "along string 2". */
export const placeWords = (place: string): string => `${place.startsWith('string') ? 'along' : 'in'} ${place}`;

/** The placing that was chosen; null for anywhere, and where the instrument has no such place. */
export const placingOf = (instrument: MusicalInstrument, place: string): Placing | null =>
  placings(instrument).get(place) ?? null;
