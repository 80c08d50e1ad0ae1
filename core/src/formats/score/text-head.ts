import { swingFrom } from '../../rhythm/swing';
import { beats } from '../../schema/beats';
import { type Clef, ClefSchema } from '../../schema/notation';
import { fifthsOfKey } from './key-names';
import { type Score, UnreadableScore } from './score';

/** The clefs as they are typed. */
export const CLEF_NAMES = ClefSchema.options;

/** A piece of the text, and where it stands, so that what is wrong can be pointed at. */
export interface Token {
  text: string;
  line: number;
}

/** An error that points at a piece of the text and says what is wrong with it. */
export const wrong = ({ text, line }: Token, what: string): UnreadableScore =>
  new UnreadableScore(`Line ${line}, “${text}”: ${what}`);

/** What the lines at the head of a text say. */
export interface TextHead extends Pick<Score, 'title' | 'clefs' | 'transposition' | 'beatUnit' | 'bpm' | 'swing'> {
  meter: { count: number; unit: number };
  fifths: number;
  firstNumber: number;
}

/** The head of a text that says nothing. */
export const plainHead = (): TextHead => ({
  title: '',
  meter: { count: 4, unit: 4 },
  fifths: 0,
  firstNumber: 1,
  clefs: ['treble'],
  transposition: 0,
});

/** A time signature as it is typed. */
export const meterOf = (text: string, token: Token): { count: number; unit: number } => {
  const [, count, unit] = /^(\d{1,2})\/(1|2|4|8|16|32)$/.exec(text.trim()) ?? [];
  if (!count || Number(count) < 1 || Number(count) > 32) throw wrong(token, 'a meter is written like 4/4 or 6/8.');
  return { count: Number(count), unit: Number(unit) };
};

/** The sharps of a key as it is typed; flats negative. */
export const keyOf = (text: string, token: Token): number => {
  const number = /^[-+]?\d$/.test(text.trim()) ? Number(text) : fifthsOfKey(text);
  if (number === null || Math.abs(number) > 7)
    throw wrong(token, 'a key is written like G, Eb or F# minor, or as a number of sharps (−1 for one flat).');
  return number;
};

type ReadLine = (head: TextHead, value: string, here: Token) => void;

/** The words that a line of the head may begin with, and how what follows is read. */
const LINES: Record<string, ReadLine> = {
  title: (head, value) => {
    head.title = value;
  },
  meter: (head, value, here) => {
    head.meter = meterOf(value, here);
  },
  key: (head, value, here) => {
    head.fifths = keyOf(value, here);
  },
  beat: (head, value, here) => {
    if (!/^\d{1,2}\/\d{1,2}$/.test(value) || beats(value).compare(0) <= 0)
      throw wrong(here, 'a beat is a note value like 1/4 or 3/8.');
    head.beatUnit = beats(value).toFraction();
  },
  tempo: (head, value, here) => {
    const bpm = Number(value);
    if (!Number.isFinite(bpm) || bpm <= 0) throw wrong(here, 'a tempo is a number of beats a minute.');
    head.bpm = bpm;
  },
  swing: (head, value, here) => {
    const swing = swingFrom(value);
    if (swing === null && value !== 'straight')
      throw wrong(here, 'a swing is straight, own, or how many times as long the first eighth is as the second, 1 to 4.');
    if (swing === null) delete head.swing;
    else head.swing = swing;
  },
  transposition: (head, value, here) => {
    if (!/^[-+]?\d{1,2}$/.test(value))
      throw wrong(here, 'a transposition is a number of semitones from the written to the sounding pitch.');
    head.transposition = Number(value);
  },
  bar: (head, value) => {
    head.firstNumber = Math.max(0, Math.min(9999, Number.parseInt(value, 10) || 1));
  },
  clef: (head, value, here) => {
    const clefs = value.toLowerCase().split(/\s+/);
    if (clefs.length > 2 || clefs.some((clef) => !CLEF_NAMES.includes(clef as Clef)))
      throw wrong(here, `a clef is one of ${CLEF_NAMES.join(', ')}; two of them for two staves.`);
    head.clefs = clefs as Clef[];
  },
};

/** A line of the head: its word, and what follows. */
export const HEAD = new RegExp(`^(${Object.keys(LINES).join('|')})\\s*:\\s*(.*)$`, 'i');

/** Reads a line of the head into it. Throws {@link UnreadableScore}. */
export const readHead = (word: string, value: string, head: TextHead, here: Token): void =>
  LINES[word.toLowerCase()]?.(head, value.trim(), here);
