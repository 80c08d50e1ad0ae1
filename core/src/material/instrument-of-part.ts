import { greatest } from 'd3-array';
import type { MusicalInstrument } from '../schema/instrument';
import type { Passage } from '../schema/passage';
import { BUILT_IN_INSTRUMENTS } from './instruments';

/** Names as parts are written with: without capitals, signs as words, some usual short forms. */
const plainName = (name: string): string =>
  name
    .toLowerCase()
    .replace(/([a-g])(?:♭|-flat|b)(?![a-z])/g, '$1 flat')
    .replace(/\bsax\b/g, 'saxophone')
    .replace(/\b(?:contrabass|string bass)\b/g, 'double bass')
    .replace(/\b(?:electric|electronic|acoustic) (?=bass\b)/g, '')
    .replace(/\b(?:drumset|drum set|drums|drumkit)\b/g, 'drum kit')
    .replace(/\s+/g, ' ')
    .trim();

/** What an instrument is called without its key: "clarinet". */
const baseName = ({ name }: MusicalInstrument): string => plainName(name).replace(/(?: in |,).*$/, '');

const hasWords = (text: string, words: string): boolean => ` ${text.replace(/[^a-z]+/g, ' ')} `.includes(` ${words} `);

/**
 * The instrument that a part of a file names, in whatever key: of those that fit, the one with the longest name, then the one that sounds as
 * the part is transposed. Null where none is named.
 *
 * @param transposition of the part, in semitones from the written pitch to the sounding one
 */
export const instrumentNamed = (part: string, transposition: number): MusicalInstrument | null => {
  const text = plainName(part);
  const named = BUILT_IN_INSTRUMENTS.filter((one) => one.id !== 'any' && hasWords(text, baseName(one)));
  return (
    greatest(
      named,
      (one) =>
        baseName(one).length +
        (one.transposition === transposition ? 0.5 : 0) +
        (text.includes(plainName(one.name)) ? 0.25 : 0),
    ) ?? null
  );
};

/**
 * A passage from a file, for the instrument that its part names, else for the player's own, where that reads it as it is written; for no
 * one in particular where neither does.
 */
export const forItsPart = (passage: Passage, part: string | undefined, plays: MusicalInstrument): Passage => {
  const { transposition = 0, staves } = passage;
  const isDrums = staves[0]?.clef === 'percussion';
  const named = part === undefined ? null : instrumentNamed(part, transposition);
  const reads = (one: MusicalInstrument | null) =>
    one !== null && one.transposition === transposition && (one.clefs[0] === 'percussion') === isDrums;
  const own = [named, plays].find(reads);
  return own ? { ...passage, instrumentId: own.id } : passage;
};
