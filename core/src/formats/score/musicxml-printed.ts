import { beats } from '../../schema/beats';
import type { Ornament, Printed } from '../../schema/notation';
import type { PassageNote } from '../../schema/passage';
import type { Reading } from './musicxml-reading';
import { printedAt, withPrinted } from './printed';
import type { ScoreBar, ScoreNote } from './score';
import { childOf, childrenOf, type Element, textOf, type Written } from './xml-tree';

/** Ornaments by their names in MusicXML. */
const ORNAMENTS: Record<string, Ornament> = {
  'trill-mark': 'trill',
  mordent: 'mordent',
  'inverted-mordent': 'inverted-mordent',
  turn: 'turn',
  'inverted-turn': 'inverted-turn',
};
const NAME_OF = new Map(Object.entries(ORNAMENTS).map(([name, ornament]) => [ornament, name]));

const OTHER_ORNAMENTS = new Set([
  'tremolo',
  'shake',
  'schleifer',
  'delayed-turn',
  'delayed-inverted-turn',
  'vertical-turn',
  'haydn',
]);

const LONGEST_SYLLABLE = 40;

/** The syllable of a note's first verse, with a hyphen where its word goes on. */
const syllableOf = (note: Element, reading: Reading): string | undefined => {
  const verses = childrenOf(note, 'lyric');
  if (verses.length > 1) reading.simplified.add('Of several verses the first one is shown.');
  const [verse] = verses;
  // Syllables that are sung together are joined as they are written.
  const text = (verse?.children ?? [])
    .filter(({ name }) => name === 'text' || name === 'elision')
    .map(({ text: own }) => own)
    .join('')
    .trim();
  const goesOn = ['begin', 'middle'].includes(
    verse?.children.findLast(({ name }) => name === 'syllabic')?.text ?? textOf(verse, 'syllabic'),
  );
  return text ? `${text.slice(0, LONGEST_SYLLABLE - 1)}${goesOn && !text.endsWith('-') ? '-' : ''}` : undefined;
};

/** What is drawn at a note and not measured: ornaments, a fermata, an arpeggio, a syllable. */
export const readPrinted = (note: Element, made: ScoreNote, reading: Reading): void => {
  const syllable = syllableOf(note, reading);
  if (syllable) withPrinted(made, { syllable });
  for (const notations of childrenOf(note, 'notations')) {
    for (const { name, attributes } of childOf(notations, 'ornaments')?.children ?? []) {
      // Without measure, of no strokes: so the standard writes a buzz.
      const ornament = name === 'tremolo' && attributes.type === 'unmeasured' ? 'buzz' : ORNAMENTS[name];
      if (ornament) withPrinted(made, { ornament });
      else if (OTHER_ORNAMENTS.has(name))
        reading.simplified.add('Tremolos and some rare ornaments are left out: the written note is measured.');
    }
    if (childOf(notations, 'fermata')) withPrinted(made, { fermata: true });
    if (childOf(notations, 'arpeggiate')) withPrinted(made, { arpeggio: true });
  }
};

/** Once a bar is read: its notes get their chord symbols, and their clefs. */
export const settlePrinted = (bar: ScoreBar, reading: Reading): void => {
  for (const { at, name } of reading.chords)
    if (!printedAt(bar.notes, at, { chord: name })) reading.simplified.add('Chord symbols that stand at no note are left out.');
  reading.chords = [];
  for (const [staff, { first, changes }] of reading.clefs) {
    for (const note of bar.notes) {
      const clef = note.staff === staff ? changes.findLast(({ at }) => at.compare(note.offset) <= 0)?.clef : undefined;
      if (clef && clef !== first) withPrinted(note, { clef });
    }
    const last = changes.at(-1);
    changes.splice(0, changes.length, ...(last ? [{ ...last, at: beats(0) }] : []));
  }
};

/** What stands among the notations of a note. */
export const printedNotations = ({ ornament, fermata, arpeggio }: Printed): (Written | false | undefined)[] => [
  ornament && {
    name: 'ornaments',
    inside: [
      ornament === 'buzz'
        ? { name: 'tremolo', attributes: { type: 'unmeasured' }, inside: 0 }
        : { name: NAME_OF.get(ornament) as string },
    ],
  },
  fermata && { name: 'fermata', attributes: { type: 'upright' } },
  arpeggio && { name: 'arpeggiate' },
];

/** The syllables of a voice with what each is in its word, as its neighbours tell. */
export const lyricElements = (notes: readonly PassageNote[]): Map<string, Written> => {
  const sung = notes.flatMap(({ id, printed }) => (printed?.syllable ? [{ id, text: printed.syllable }] : []));
  return new Map(
    sung.map(({ id, text }, k) => {
      const [goesOn, came] = [text.endsWith('-'), sung[k - 1]?.text.endsWith('-') ?? false];
      const syllabic = goesOn ? (came ? 'middle' : 'begin') : came ? 'end' : 'single';
      const bare = text.replace(/-$/, '') || text;
      return [
        id,
        {
          name: 'lyric',
          attributes: { number: 1 },
          inside: [
            { name: 'syllabic', inside: syllabic },
            { name: 'text', inside: bare },
          ],
        },
      ];
    }),
  );
};
