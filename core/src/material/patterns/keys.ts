import { fifthsOf, spelledPitch } from '../../formats/score/pitch-spelling';
import { wordField } from '../../rhythm/methods/fields';
import { midiOf, STEPS } from '../../rhythm/pitch';
import type { MusicalInstrument } from '../../schema/instrument';
import type { Pitch } from '../../schema/notation';
import type { OptionField } from '../../schema/options';

/** Tonics in the order of fifths, from six flats to six sharps. */
export const TONICS = ['Gb', 'Db', 'Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#'] as const;
export type Tonic = (typeof TONICS)[number];

/** A tonic as a pitch of an octave. */
const tonicPitch = (tonic: Tonic, octave: number): Pitch => ({
  step: tonic[0] as Pitch['step'],
  alter: tonic.endsWith('#') ? 1 : tonic.endsWith('b') ? -1 : 0,
  octave,
});

/** The lowest octave in which a tonic lies within an instrument's range. */
export const lowestTonic = (tonic: Tonic, { lowest }: MusicalInstrument): Pitch => {
  const first = tonicPitch(tonic, -1);
  const octaves = Math.max(0, Math.ceil((midiOf(lowest) - midiOf(first)) / 12));
  return { ...first, octave: first.octave + octaves };
};

/** The pitch so many steps of the scale and so many semitones above another, spelled by its step. */
export const above = (from: Pitch, steps: number, semitones: number): Pitch => {
  const index = STEPS.indexOf(from.step) + steps;
  const step = STEPS[((index % 7) + 7) % 7] as Pitch['step'];
  const octave = from.octave + Math.floor(index / 7);
  const alter = midiOf(from) + semitones - midiOf({ step, alter: 0, octave });
  return Math.abs(alter) <= 2 ? { step, alter, octave } : spelledPitch(midiOf(from) + semitones, fifthsOf(from));
};

/** The signature of a tonic in a mode that begins so many fifths from the major key: minor keys lie three flats away. */
export const signatureOf = (tonic: Tonic, away: number): number => {
  const fifths = fifthsOf(tonicPitch(tonic, 4)) + away;
  return Math.max(-7, Math.min(7, fifths));
};

/** Whether a pitch lies in an instrument's range. */
export const isInRange = (pitch: Pitch, { lowest, highest }: MusicalInstrument): boolean =>
  midiOf(pitch) >= midiOf(lowest) && midiOf(pitch) <= midiOf(highest);

/** A tonic as it is spoken: "E flat". */
export const tonicName = (tonic: Tonic): string => tonic.replace('b', ' flat').replace('#', ' sharp');

/** A choice among the tonics. */
export const tonicField = (label: string): OptionField =>
  wordField('tonic', label, Object.fromEntries(TONICS.map((tonic) => [tonic, tonicName(tonic)])));
