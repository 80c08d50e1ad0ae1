import { range } from 'd3-array';
import { midiOf } from '../../rhythm/pitch';
import type { MusicalInstrument } from '../../schema/instrument';
import type { Pitch } from '../../schema/notation';

/** Octaves by which a pattern of so many octaves may be moved up from the lowest tonic: first where it lies about the middle of the range. */
export const startsFromMiddle = (
  first: Pitch,
  octaves: number,
  { lowest, highest }: { lowest: Pitch; highest: Pitch },
): number[] => {
  const room = Math.max(0, Math.floor((midiOf(highest) - midiOf(first)) / 12));
  const wanted = Math.round((midiOf(lowest) + midiOf(highest)) / 2 - midiOf(first) - 6 * octaves) / 12;
  return range(room + 1).sort((a, b) => Math.abs(a - wanted) - Math.abs(b - wanted));
};

/** The same for a pattern that reaches no higher than its octaves. */
export const startInMiddle = (first: Pitch, octaves: number, instrument: { lowest: Pitch; highest: Pitch }): number => {
  const room = Math.floor((midiOf(instrument.highest) - midiOf(first)) / 12) - octaves;
  return startsFromMiddle(first, octaves, instrument).find((start) => start <= room) ?? 0;
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
