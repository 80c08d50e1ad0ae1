import type Fraction from 'fraction.js';
import type { Printed } from '../../schema/notation';
import type { ScoreNote } from './score';

/** Words in one line, without the letters that a format has for itself; null where nothing is left. */
export const plainWords = (words: string | undefined, own: RegExp): string | null =>
  words?.replace(own, '').replace(/\s+/g, ' ').trim() || null;

/** What a chord has between its notes: of two that say the same the first. */
export const printedOn = (notes: readonly { printed?: Printed | undefined }[]): Printed =>
  Object.assign({}, ...notes.map(({ printed }) => printed).reverse());

/** Adds something that is drawn at a note. */
export const withPrinted = (note: ScoreNote, printed: Printed): void => {
  note.printed = { ...note.printed, ...printed };
};

/** Adds something that stands over a place of a bar to its first note there; false where none begins there. */
export const printedAt = (notes: readonly ScoreNote[], at: Fraction, printed: Printed): boolean => {
  const note = notes.find(({ offset, grace }) => !grace && offset.equals(at));
  if (note) withPrinted(note, printed);
  return note !== undefined;
};
