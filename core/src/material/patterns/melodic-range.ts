import { range } from 'd3-array';
import { midiOf } from '../../rhythm/pitch';
import type { MusicalInstrument } from '../../schema/instrument';
import type { Pitch } from '../../schema/notation';

/** Instruments of so many semitones are played about their middle, others from their lowest notes on (common practice). */
const WIDE_RANGE = 60;

/**
 * Octaves by which a pattern of so many octaves may be moved up from the lowest tonic, the best first: where it lies about the middle of a
 * wide range, else as low as can be.
 */
export const startsInOrder = (
  first: Pitch,
  octaves: number,
  { lowest, highest }: { lowest: Pitch; highest: Pitch },
): number[] => {
  const room = Math.max(0, Math.floor((midiOf(highest) - midiOf(first)) / 12));
  const isWide = midiOf(highest) - midiOf(lowest) >= WIDE_RANGE;
  const wanted = isWide ? ((midiOf(lowest) + midiOf(highest)) / 2 - midiOf(first) - 6 * octaves) / 12 : 0;
  return range(room + 1).sort((a, b) => Math.abs(a - wanted) - Math.abs(b - wanted));
};

/** Octaves by which a pattern of so many octaves is moved up from the lowest tonic, to lie about the middle of the range. */
export const startInMiddle = (
  first: Pitch,
  octaves: number,
  { lowest, highest }: { lowest: Pitch; highest: Pitch },
): number => {
  const room = Math.floor((midiOf(highest) - midiOf(first)) / 12) - octaves;
  const wanted = ((midiOf(lowest) + midiOf(highest)) / 2 - midiOf(first) - 6 * octaves) / 12;
  return Math.max(0, Math.min(room, Math.round(wanted)));
};

/** Whether its music is written on two staves, one for each hand. */
export const isTwoHanded = ({ clefs }: MusicalInstrument): boolean => clefs.length === 2;

/** Whether one player has two notes at once on it. */
export const isPolyphonic = (instrument: MusicalInstrument): boolean =>
  instrument.strings.length > 1 || isTwoHanded(instrument) || instrument.profileId === 'struck' || instrument.id === 'any';

/** Whether two notes lie on neighbouring strings, each on its own; without strings always. */
export const canSoundTogether = ({ strings }: MusicalInstrument, lower: Pitch, upper: Pitch): boolean =>
  strings.length === 0 ||
  strings.slice(1).some(({ pitch }, k) => {
    const below = strings[k]?.pitch;
    return below !== undefined && midiOf(below) <= midiOf(lower) && midiOf(pitch) <= midiOf(upper);
  });
