import { beats } from '../schema/beats';

/** The two English conventions for note values. */
export type NoteNaming = 'british' | 'american';

const NAMES: Record<string, Record<NoteNaming, string>> = {
  '1': { british: 'semibreve', american: 'whole note' },
  '1/2': { british: 'minim', american: 'half note' },
  '1/4': { british: 'crotchet', american: 'quarter' },
  '1/8': { british: 'quaver', american: 'eighth' },
  '1/16': { british: 'semiquaver', american: 'sixteenth' },
  '1/32': { british: 'demisemiquaver', american: 'thirty-second' },
};

/**
 * The name of a note value given as a fraction of a whole note, dotted and triplet values included.
 * Falls back to the fraction itself for values that have no everyday name.
 */
export const noteValueName = (wholeNotes: string, naming: NoteNaming): string => {
  const value = beats(wholeNotes);
  const plain = NAMES[value.toFraction()];
  if (plain) return plain[naming];
  const dotted = NAMES[value.mul(2).div(3).toFraction()];
  if (dotted && value.n === 3n) return `dotted ${dotted[naming]}`;
  const triplet = NAMES[value.mul(3).div(2).toFraction()];
  if (triplet) return `triplet ${triplet[naming]}`;
  return value.toFraction();
};
