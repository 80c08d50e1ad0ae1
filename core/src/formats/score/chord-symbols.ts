import { alterOf, signOf } from '../../rhythm/pitch';
import type { Pitch } from '../../schema/notation';
import { shiftedPitch } from './pitch-spelling';

/** A note that names a chord or its bass: a letter with its accidental. */
export type ChordNote = Pick<Pitch, 'step' | 'alter'>;

/** A chord symbol in its pieces: Bbm7/F is B flat, m7, F. */
export interface ChordSymbol {
  root: ChordNote;
  kind: string;
  bass: ChordNote | null;
}

const SYMBOL = /^([A-G])(##|#|bb|b)?(.*?)(?:\/([A-G])(##|#|bb|b)?)?$/;

const noteOf = (step: string, sign: string | undefined): ChordNote => ({
  step: step as Pitch['step'],
  alter: alterOf(sign),
});

/** Takes a chord symbol apart; null for words that name no chord, like N.C. */
export const chordSymbol = (name: string): ChordSymbol | null => {
  // Signs of the music font are what they stand for.
  const [, step, sign, kind = '', bass, bassSign] = SYMBOL.exec(name.replace(/♯/g, '#').replace(/♭/g, 'b')) ?? [];
  return step ? { root: noteOf(step, sign), kind, bass: bass ? noteOf(bass, bassSign) : null } : null;
};

/** What may follow the letter of a chord: so "Fine" and "Coda" are none (common practice, from memory). */
const KIND = /^(?:maj|min|dim|aug|sus|add|omit|no|alt|ma|mi|[mM\d+°øoΔ△^#b(),\s-])*$/;

/** Whether words over the notes are a chord symbol, or say that there is none. */
export const isChordName = (name: string): boolean => {
  const symbol = chordSymbol(name);
  return symbol ? KIND.test(symbol.kind) : /^N\.?C\.?$/i.test(name);
};

const noteName = ({ step, alter }: ChordNote): string => `${step}${signOf(alter)}`;

/** Writes a chord symbol. */
export const chordName = ({ root, kind, bass }: ChordSymbol): string =>
  `${noteName(root)}${kind}${bass ? `/${noteName(bass)}` : ''}`;

/** A chord symbol so many semitones higher, spelled as its key moves; words that name no chord stay. See {@link shiftedPitch}. */
export const shiftedChord = (name: string, semitones: number, fifths: number, shift: number): string => {
  const symbol = chordSymbol(name);
  if (!symbol) return name;
  const moved = (note: ChordNote) => shiftedPitch({ ...note, octave: 4 }, semitones, fifths, shift);
  return chordName({ ...symbol, root: moved(symbol.root), bass: symbol.bass && moved(symbol.bass) });
};
