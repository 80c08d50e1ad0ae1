import type Fraction from 'fraction.js';
import { clefOn } from '../../rhythm/clefs';
import { positive, type Reading } from './musicxml-reading';
import { shiftedKey } from './pitch-spelling';
import { UnreadableScore } from './score';
import { childOf, childrenOf, type Element, numberOf, textOf } from './xml-tree';

/** The sign that repeats the bar before, or as many as it names, from this bar on until it ends. */
const readRepeatedBars = (attributes: Element, reading: Reading): void => {
  for (const style of childrenOf(attributes, 'measure-style')) {
    const sign = childOf(style, 'measure-repeat');
    if (sign) reading.repeatedBars = sign.attributes.type === 'start' ? Math.max(1, Math.round(Number(sign.text)) || 1) : 0;
  }
};

/** A part has one transposition: where it changes, what follows is written for the one that it began with. */
const readTransposition = (transpose: Element | null, reading: Reading): void => {
  if (!transpose) return;
  const semitones = (numberOf(transpose, 'chromatic') ?? 0) + 12 * (numberOf(transpose, 'octave-change') ?? 0);
  if (reading.voices.size === 0) reading.transposition = semitones;
  const shift = semitones - reading.transposition;
  // The key that it stands in, where the file names no other.
  reading.fifths = shiftedKey(reading.fifths, shift - reading.shift);
  reading.shift = shift;
  if (shift !== 0)
    reading.simplified.add(
      'The transposition changes within the music: all is written for the instrument that it begins with.',
    );
};

/** What stands before notes, at a place of its bar, and holds from here on: how lengths are counted, key, meter, clefs, transposition, repeated bars. */
export const readAttributes = (element: Element, at: Fraction, reading: Reading): void => {
  const divisions = numberOf(element, 'divisions');
  if (divisions !== null) {
    if (!positive(divisions))
      throw new UnreadableScore('The length of notes is not said in a way that can be counted. Export the file again.');
    reading.divisions = divisions;
  }
  readTransposition(childOf(element, 'transpose'), reading);
  const fifths = numberOf(childOf(element, 'key'), 'fifths');
  if (fifths !== null) reading.fifths = shiftedKey(Math.max(-7, Math.min(7, Math.round(fifths))), reading.shift);
  const time = childOf(element, 'time');
  const counts = textOf(time, 'beats').split('+').map(Number);
  const unit = numberOf(time, 'beat-type');
  if (time && positive(unit) && counts.every((count) => positive(count)))
    reading.meter = { count: counts.reduce((sum, count) => sum + count, 0), unit };
  for (const clef of childrenOf(element, 'clef')) {
    const staff = Number(clef.attributes.number ?? 1);
    const sign = textOf(clef, 'sign');
    const line = numberOf(clef, 'line') ?? (sign === 'G' ? 2 : sign === 'F' ? 4 : 3);
    const read = clefOn(sign, line) ?? 'treble';
    const before = reading.clefs.get(staff);
    if (before) before.changes.push({ at, clef: read });
    else reading.clefs.set(staff, { first: read, octaves: numberOf(clef, 'clef-octave-change') ?? 0, changes: [] });
  }
  readRepeatedBars(element, reading);
};
