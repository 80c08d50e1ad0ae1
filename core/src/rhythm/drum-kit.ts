import type { Pitch } from '../schema/notation';
import { midiOf } from './pitch';

/** A part of a drum kit: its key in General MIDI, its name, and where it stands on a staff of five lines, with which head. */
export interface DrumPart {
  midi: number;
  name: string;
  /** The place that this pitch has on a treble staff. */
  place: Pick<Pitch, 'step' | 'octave'>;
  head: 'plain' | 'cross' | 'ringed cross' | 'diamond' | 'triangle';
}

const part = (midi: number, name: string, place: string, head: DrumPart['head'] = 'plain'): DrumPart => ({
  midi,
  name,
  place: { step: place[0] as Pitch['step'], octave: Number(place[1]) },
  head,
});

/**
 * The parts of a kit. Keys and names by General MIDI level 1 (MIDI Manufacturers Association); places and heads as drum parts are usually
 * printed (after N. Weinberg, Guide to Standardized Drumset Notation, 1998, from memory).
 */
export const DRUM_KIT: readonly DrumPart[] = [
  part(35, 'bass drum', 'F4'),
  part(36, 'bass drum', 'F4'),
  part(37, 'side stick', 'C5', 'cross'),
  part(38, 'snare drum', 'C5'),
  part(39, 'hand clap', 'D5', 'cross'),
  part(40, 'snare drum', 'C5'),
  part(41, 'low floor tom', 'G4'),
  part(42, 'closed hi-hat', 'G5', 'cross'),
  part(43, 'floor tom', 'A4'),
  part(44, 'hi-hat by foot', 'D4', 'cross'),
  part(45, 'low tom', 'B4'),
  part(46, 'open hi-hat', 'G5', 'ringed cross'),
  part(47, 'middle tom', 'D5'),
  part(48, 'high middle tom', 'E5'),
  part(49, 'crash cymbal', 'A5', 'cross'),
  part(50, 'high tom', 'F5'),
  part(51, 'ride cymbal', 'F5', 'cross'),
  part(52, 'china cymbal', 'B5', 'ringed cross'),
  part(53, 'ride bell', 'F5', 'diamond'),
  part(54, 'tambourine', 'E5', 'cross'),
  part(55, 'splash cymbal', 'A5', 'ringed cross'),
  part(56, 'cowbell', 'E5', 'triangle'),
  part(57, 'second crash cymbal', 'B5', 'cross'),
  part(59, 'second ride cymbal', 'F5', 'ringed cross'),
];

const BY_KEY = new Map(DRUM_KIT.map((one) => [one.midi, one]));

/** The part of a kit that a pitch on a percussion staff means; null for any other, which stands where it is written. */
export const drumPartOf = (pitch: Pitch | null): DrumPart | null => (pitch ? (BY_KEY.get(midiOf(pitch)) ?? null) : null);

/** One key for all that send the same part of a kit: pads send either of the two bass or snare drums. Any other key is itself. */
export const drumKey = (midi: number): number => {
  const name = BY_KEY.get(midi)?.name;
  return DRUM_KIT.find((one) => one.name === name)?.midi ?? midi;
};

/** Whether a key of General MIDI is a part of the kit. */
export const isDrumKey = (midi: number): boolean => BY_KEY.has(midi);
