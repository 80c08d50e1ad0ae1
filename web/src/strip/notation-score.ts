import { beats, type Grid, type GridNote, type Pitch } from '@isochron/core';

/** One notated symbol: a note or a rest, in the notation package's terms. */
export interface ScoreSymbol {
  at: number;
  isRest: boolean;
  pitches: (Pitch | null)[];
  /** 1, 2, 4, 8, 16, 32: the undotted note value. */
  value: number;
  dots: number;
  /** Notes of a triplet are written in twice their sounding value times three thirds. */
  isTriplet: boolean;
  hasAccent: boolean;
  /** What is written beside it: a finger, a stick, a hand, a stroke. */
  mark: string;
}

const PLAIN = [1, 2, 4, 8, 16, 32, 64];

/** How a length (in whole notes) is written, or null where one symbol cannot say it. */
const written = (wholeNotes: ReturnType<typeof beats>): Pick<ScoreSymbol, 'value' | 'dots' | 'isTriplet'> | null => {
  for (const value of PLAIN) {
    const plain = beats(`1/${value}`);
    if (wholeNotes.equals(plain)) return { value, dots: 0, isTriplet: false };
    if (wholeNotes.equals(plain.mul('3/2'))) return { value, dots: 1, isTriplet: false };
    if (wholeNotes.equals(plain.mul('2/3'))) return { value, dots: 0, isTriplet: true };
  }
  return null;
};

const HAND_LETTERS = { left: 'L', right: 'R' } as const;
const STROKE_SIGNS = { up: '↑', down: '↓' } as const;

/** Hands are written beside the notes only where the staves do not tell them. */
const markOf = ({ marks }: GridNote, writesHands: boolean): string =>
  marks.finger ??
  marks.stick ??
  marks.string ??
  (marks.stroke ? STROKE_SIGNS[marks.stroke] : undefined) ??
  marks.sign ??
  (marks.hand && writesHands ? HAND_LETTERS[marks.hand] : '');

/** The symbols of one staff of a grid in order, with rests in its gaps where one symbol can say them. */
export const notationScore = (grid: Grid, staff = 1): ScoreSymbol[] => {
  const unit = beats(grid.beatUnit);
  const events = grid.events.flatMap((event) => {
    const notes = event.notes.filter((note) => note.staff === staff);
    const [first] = notes;
    return first ? [{ at: beats(event.at), length: beats(first.length), notes, hasAccent: event.accent }] : [];
  });
  return events.flatMap(({ at, length, notes, hasAccent }, k) => {
    const own = written(length.mul(unit)) ?? { value: 4, dots: 0, isTriplet: false };
    const marks = [...new Set(notes.map((note) => markOf(note, grid.staves.length === 1)))].filter(Boolean).join('\u2009');
    const symbols: ScoreSymbol[] = [
      { at: at.valueOf(), isRest: false, pitches: notes.map((note) => note.pitch), hasAccent, mark: marks, ...own },
    ];
    const end = at.add(length);
    const next = events[k + 1];
    const rest = next && next.at.compare(end) > 0 ? written(next.at.sub(end).mul(unit)) : null;
    if (rest) symbols.push({ at: end.valueOf(), isRest: true, pitches: [], hasAccent: false, mark: '', ...rest });
    return symbols;
  });
};

const SIGNS: Record<number, string> = { [-2]: 'bb', [-1]: 'b', 0: '', 1: '#', 2: '##' };

/** A pitch as the notation package writes it: middle C is "c/4". */
export const pitchKey = ({ step, alter, octave }: Pitch): string => `${step.toLowerCase()}${SIGNS[alter] ?? ''}/${octave}`;

const MAJOR_KEYS = ['Cb', 'Gb', 'Db', 'Ab', 'Eb', 'Bb', 'F', 'C', 'G', 'D', 'A', 'E', 'B', 'F#', 'C#'] as const;

/** The name of the major key with so many sharps (positive) or flats. */
export const keyName = (fifths: number): string => MAJOR_KEYS[fifths + 7] ?? 'C';
