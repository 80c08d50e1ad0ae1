import { clefOn } from '../../rhythm/clefs';
import type { Clef, Ornament, Printed } from '../../schema/notation';
import type { PassageNote } from '../../schema/passage';
import { isChordName } from './chord-symbols';
import { plainWords, printedOn } from './printed';
import type { WrittenItem } from './written-voice';

/** What the package hands on of things that are drawn at a note. */
export interface AbcPrinted {
  decoration?: string[];
  /** Chord symbols, and words beside the music, which have a side. */
  chord?: { name: string; position?: string }[];
  /** A syllable for each verse. */
  lyric?: { syllable: string; divider?: string }[];
}

/** Ornaments by their names in the standard, 4.14; the first of each is the one that is written. */
const ORNAMENTS: readonly (readonly [name: string, ornament: Ornament])[] = [
  ['trill', 'trill'],
  ['lowermordent', 'mordent'],
  ['mordent', 'mordent'],
  ['uppermordent', 'inverted-mordent'],
  ['pralltriller', 'inverted-mordent'],
  ['turn', 'turn'],
  ['invertedturn', 'inverted-turn'],
];

/** The standard has no sign for a buzz: it stands as a word over the note. */
const BUZZ = 'buzz';

/** The syllable of a first verse, with a hyphen where its word goes on. */
const syllableFrom = ({ lyric = [] }: AbcPrinted): string => {
  const [first] = lyric;
  const text = (first?.syllable ?? '').replace(/\u00A0/g, ' ').trim();
  return text ? `${text.slice(0, 39)}${first?.divider === '-' ? '-' : ''}` : '';
};

/** What is drawn at a note of a tune and not measured; what is left out is said. */
export const abcPrinted = (element: AbcPrinted, simplified: Set<string>): Printed => {
  const { decoration = [], chord = [], lyric = [] } = element;
  const isBuzz = chord.some(({ name, position }) => position === 'above' && name === BUZZ);
  const ornament = isBuzz ? 'buzz' : ORNAMENTS.find(([name]) => decoration.includes(name))?.[1];
  if (decoration.some((name) => /^(roll|slide|trem\d|\/+)$/.test(name)))
    simplified.add('Rolls, slides and tremolos are left out: the written note is measured.');
  if (lyric.length > 1) simplified.add('Of several verses the first one is shown.');
  const name = chord
    .filter(({ position }) => position === undefined || position === 'default')
    .map((one) => one.name.replace(/♯/g, '#').replace(/♭/g, 'b').trim())
    .find(isChordName);
  const syllable = syllableFrom(element);
  return {
    ...(ornament ? { ornament } : {}),
    ...(decoration.includes('fermata') || decoration.includes('invertedfermata') ? { fermata: true } : {}),
    ...(decoration.includes('arpeggio') ? { arpeggio: true } : {}),
    ...(name ? { chord: name.slice(0, 24) } : {}),
    ...(syllable ? { syllable } : {}),
  };
};

/** The signs before a note or chord. */
export const printedSigns = (notes: readonly PassageNote[]): string => {
  const printed = printedOn(notes);
  const ornament = ORNAMENTS.find(([, one]) => one === printed.ornament)?.[0];
  // A side in front would make it a remark.
  const chord = plainWords(printed.chord, /["%\\]|^[\^_<>@]+/g);
  return [
    // A chord symbol stands before all other signs (standard, 4.20).
    chord ? `"${chord}"` : '',
    ornament ? `!${ornament}!` : '',
    printed.ornament === 'buzz' ? `"^${BUZZ}"` : '',
    printed.fermata ? '!fermata!' : '',
    printed.arpeggio ? '!arpeggio!' : '',
  ].join('');
};

/** Characters that divide or skip syllables stand for themselves behind a backslash; a space inside a syllable is a tilde. */
const escaped = (text: string): string => text.replace(/[-_*|\\~%]/g, '').replace(/\s+/g, '~');

/** The line of words under a bar; empty where none of its notes is sung. A note without a syllable has a blank one. */
export const wordLine = (items: readonly WrittenItem[]): string => {
  const syllables = items.flatMap((item) => {
    if (item.kind !== 'chord') return [];
    const text = item.isFirst ? (printedOn(item.notes).syllable ?? '') : '';
    const bare = escaped(text.replace(/-$/, ''));
    return [bare === '' ? '~' : `${bare}${text.endsWith('-') ? '-' : ''}`];
  });
  return syllables.every((one) => one === '~') ? '' : `w:${syllables.join(' ').replace(/- /g, '-')}`;
};

/** The clefs as the standard names them; C clefs by their line (4.6). */
export const ABC_CLEFS: Readonly<Record<Clef, string>> = {
  treble: 'treble',
  bass: 'bass',
  alto: 'alto',
  tenor: 'tenor',
  percussion: 'perc',
  soprano: 'alto1',
  'mezzo-soprano': 'alto2',
  baritone: 'alto5',
};

const SIGNS: Record<string, string> = { treble: 'G', bass: 'F', alto: 'C', tenor: 'C', perc: 'percussion' };

/** The clef that the package found: its place counts steps from under the lowest line. */
export const abcClef = (type = 'treble', clefPos?: number): Clef => {
  const name = type.replace(/[+-]8$/, '');
  const line = clefPos === undefined ? { treble: 2, bass: 4, alto: 3, tenor: 4 }[name] : clefPos / 2;
  return clefOn(SIGNS[name] ?? 'G', line ?? 2) ?? 'treble';
};
