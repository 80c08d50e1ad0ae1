import { type Clef, OrnamentSchema, type Printed } from '../../schema/notation';
import { plainWords } from './printed';
import { CLEF_NAMES } from './text-head';

/** What stands in quotes before a note: a chord symbol over it, or, behind a low line, a syllable under it. */
export const QUOTED = /^"(_?)([^"]*)"$/;

/** The signs that are drawn at a note, as they are typed behind an @. */
export const printedSign = (text: string): Printed | null => {
  const ornament = OrnamentSchema.safeParse(text);
  if (ornament.success) return { ornament: ornament.data };
  if (text === 'fermata') return { fermata: true };
  return text === 'arpeggio' ? { arpeggio: true } : null;
};

/** A change of clef before a note; null for any other piece of text, undefined for a clef that is none. */
export const clefChange = (text: string): Clef | null | undefined => {
  const name = /^clef=(.*)$/.exec(text)?.[1];
  return name === undefined ? null : CLEF_NAMES.find((clef) => clef === name);
};

/** What is typed before a note: its chord symbol and its syllable. */
export const printedBefore = (printed: Printed): string[] => {
  // A low line at the beginning would make it a syllable.
  const chord = plainWords(printed.chord, /"|^_+/g);
  const syllable = plainWords(printed.syllable, /"/g);
  return [...(chord ? [`"${chord}"`] : []), ...(syllable ? [`"_${syllable}"`] : [])];
};

/** What is typed behind its pitch. */
export const printedBehind = ({ ornament, fermata, arpeggio }: Printed): string[] => [
  ...(ornament ? [ornament] : []),
  ...(fermata ? ['fermata'] : []),
  ...(arpeggio ? ['arpeggio'] : []),
];
