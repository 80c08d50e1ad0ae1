import type Fraction from 'fraction.js';
import { withoutTies } from '../../rhythm/grid-of';
import type { Passage, PassageNote } from '../../schema/passage';

/** The notes of a passage as they sound, ties joined, grace notes left out, in order of time. */
export const soundingNotes = (passage: Passage): { note: PassageNote; at: Fraction; length: Fraction }[] =>
  withoutTies(passage.notes.filter(({ grace }) => !grace)).sort((a, b) => a.at.compare(b.at));
