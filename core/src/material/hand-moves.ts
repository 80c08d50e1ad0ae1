import { extent } from 'd3-array';
import { midiOf } from '../rhythm/pitch';
import type { GridNote } from '../schema/grid';
import type { MusicalInstrument } from '../schema/instrument';
import { isTwoHanded } from './patterns/melodic-range';

/**
 * How far the hand reaches without leaving its place, in semitones (common practice, from memory): along a string from the first finger to
 * the fourth; over keys from thumb to little finger; with the breath from one register into another.
 */
const REACH = {
  smallBowed: 5,
  largeBowed: 4,
  fretted: 4,
  keyboard: 14,
  mallets: 12,
  blown: 11,
  brass: 9,
  any: 8,
};
/** No string is stopped higher than this. */
const HIGHEST_FRET = 24;
/** The lowest string of cellos, basses and what is as long. */
const LARGE_BELOW_MIDI = 48;

const reachAlongString = ({ profileId, strings }: MusicalInstrument): number => {
  if (profileId !== 'bowed') return REACH.fretted;
  const [lowest = 0] = extent(strings, ({ pitch }) => midiOf(pitch));
  return lowest < LARGE_BELOW_MIDI ? REACH.largeBowed : REACH.smallBowed;
};

const reachOf = (instrument: MusicalInstrument): number => {
  if (isTwoHanded(instrument)) return REACH.keyboard;
  if (instrument.profileId === 'struck') return REACH.mallets;
  if (instrument.profileId === 'blown') return REACH.blown;
  return instrument.profileId === 'brass' ? REACH.brass : REACH.any;
};

/** How far from the open string a note can be stopped: on the string that is marked, else on each that has it. 0 is the open string. */
const fretsOf = ({ pitch, marks }: GridNote, { strings }: MusicalInstrument): number[] => {
  if (!pitch) return [];
  const marked = strings.filter(({ name }) => name === marks.string);
  return (marked.length > 0 ? marked : strings)
    .map((string) => midiOf(pitch) - midiOf(string.pitch))
    .filter((fret) => fret >= 0 && fret <= HIGHEST_FRET);
};

/**
 * By how many semitones the hand has to leave its place between two notes, at the least: 0 where both lie under it. On strings that is along
 * the string, whatever the interval; on drums nothing is told.
 */
export const handMove = (from: GridNote, to: GridNote, instrument: MusicalInstrument): number => {
  if (!from.pitch || !to.pitch || instrument.clefs[0] === 'percussion') return 0;
  if (instrument.strings.length === 0) {
    const interval = Math.abs(midiOf(to.pitch) - midiOf(from.pitch));
    return interval > reachOf(instrument) ? interval : 0;
  }
  const reach = reachAlongString(instrument);
  const ways = fretsOf(from, instrument).flatMap((one) =>
    // An open string leaves the hand where it likes.
    fretsOf(to, instrument).map((other) => (one === 0 || other === 0 ? 0 : Math.max(0, Math.abs(other - one) - reach))),
  );
  return ways.length > 0 ? Math.min(...ways) : 0;
};

/** The string that a note is played on by its mark, or where the hand lies lowest; null where the instrument has none. */
export const stringOf = ({ pitch, marks }: GridNote, { strings }: MusicalInstrument): number | null => {
  const marked = strings.findIndex(({ name }) => name === marks.string);
  if (marked >= 0) return marked;
  const below = pitch ? strings.findLastIndex((string) => midiOf(string.pitch) <= midiOf(pitch)) : -1;
  return below >= 0 ? below : null;
};
