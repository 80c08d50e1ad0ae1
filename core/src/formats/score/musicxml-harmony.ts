import { type ChordNote, chordName, chordSymbol } from './chord-symbols';
import { childOf, childrenOf, type Element, numberOf, textOf, type Written } from './xml-tree';

/** Kinds of chords by their names in MusicXML 4.0 (kind-value), and as they are written (common practice). */
const KINDS: Record<string, string> = {
  major: '',
  minor: 'm',
  augmented: '+',
  diminished: 'dim',
  dominant: '7',
  'major-seventh': 'maj7',
  'minor-seventh': 'm7',
  'diminished-seventh': 'dim7',
  'augmented-seventh': '+7',
  'half-diminished': 'm7b5',
  'major-minor': 'm(maj7)',
  'major-sixth': '6',
  'minor-sixth': 'm6',
  'dominant-ninth': '9',
  'major-ninth': 'maj9',
  'minor-ninth': 'm9',
  'dominant-11th': '11',
  'major-11th': 'maj11',
  'minor-11th': 'm11',
  'dominant-13th': '13',
  'major-13th': 'maj13',
  'minor-13th': 'm13',
  'suspended-second': 'sus2',
  'suspended-fourth': 'sus4',
  power: '5',
};

/** A note of a chord symbol: its step and alteration stand in elements named after it. */
const readNote = (element: Element | null, name: string): ChordNote | null => {
  const step = /^[A-G]$/.exec(textOf(element, `${name}-step`))?.[0] as ChordNote['step'] | undefined;
  const alter = Math.max(-2, Math.min(2, Math.round(numberOf(element, `${name}-alter`) ?? 0)));
  return step ? { step, alter } : null;
};

/** A note that is added to a chord, altered in it or left out: b9, #11, add2, omit3. */
const degreeText = (degree: Element): string => {
  const alter = numberOf(degree, 'degree-alter') ?? 0;
  const type = textOf(degree, 'degree-type');
  const sign = alter > 0 ? '#' : alter < 0 ? 'b' : '';
  const word = type === 'subtract' ? 'omit' : type === 'add' && sign === '' ? 'add' : '';
  return `${word}${sign}${textOf(degree, 'degree-value')}`;
};

/** The chord symbol that a harmony element writes; null for one that has no letter name, as by degrees of the key. */
export const readHarmony = (harmony: Element): string | null => {
  const kind = childOf(harmony, 'kind');
  const root = childOf(harmony, 'root');
  const written = kind?.attributes.text;
  const note = readNote(root, 'root');
  if (kind?.text === 'none' || !note || childOf(root, 'root-step')?.attributes.text === '')
    return written || (kind?.text === 'none' ? 'N.C.' : null);
  const symbol = {
    root: note,
    kind: written ?? KINDS[kind?.text ?? ''] ?? '',
    bass: readNote(childOf(harmony, 'bass'), 'bass'),
  };
  // Where the kind is written out, it names what is altered in it.
  const degrees = written === undefined ? childrenOf(harmony, 'degree').map(degreeText) : [];
  return chordName({ ...symbol, kind: `${symbol.kind}${degrees.join('')}` }).slice(0, 24);
};

const noteElements = (name: string, { step, alter }: ChordNote): Written => ({
  name,
  inside: [{ name: `${name}-step`, inside: step }, alter !== 0 && { name: `${name}-alter`, inside: alter }],
});

/** The element of a chord symbol; words that name no chord are written as such, with a root that is not shown. */
export const harmonyElement = (name: string, staff: number | null): Written => {
  const symbol = chordSymbol(name);
  const onStaff = staff !== null && { name: 'staff', inside: staff };
  if (!symbol)
    return {
      name: 'harmony',
      inside: [
        { name: 'root', inside: [{ name: 'root-step', attributes: { text: '' }, inside: 'C' }] },
        { name: 'kind', attributes: { text: name }, inside: 'none' },
        onStaff,
      ],
    };
  const kind = Object.entries(KINDS).find(([, text]) => text === symbol.kind)?.[0];
  return {
    name: 'harmony',
    inside: [
      noteElements('root', symbol.root),
      kind ? { name: 'kind', inside: kind } : { name: 'kind', attributes: { text: symbol.kind }, inside: 'other' },
      symbol.bass && noteElements('bass', symbol.bass),
      onStaff,
    ],
  };
};
