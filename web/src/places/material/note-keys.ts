import type { NoteEdit, NoteMove } from '@isochron/core/material';

/** What moves a note, by `KeyboardEvent.key`: to the next step, with Shift by a semitone. */
const MOVES: Readonly<Record<string, readonly [plain: NoteMove, withShift: NoteMove]>> = {
  ArrowUp: ['step up', 'semitone up'],
  ArrowDown: ['step down', 'semitone down'],
};

/** What edits a note, with Shift and without; letters that no mark has. */
const EDITS: Readonly<Record<string, NoteEdit>> = {
  j: 'tie',
  e: 'accent',
  s: 'staccato',
  h: 'tenuto',
  n: 'respell',
  x: 'rest',
};
const WITH_SHIFT: Readonly<Record<string, NoteEdit>> = { ArrowRight: 'longer', ArrowLeft: 'shorter' };

/** What is done with the bar of a note, by the key that goes with Ctrl. */
const BARS = { c: 'copy', x: 'cut', v: 'paste', enter: 'silence' } as const;
/** What is said of the page rather than of a note, by letters that no mark has: bars that are copied begin here, the fields of its bar, notes from MIDI. */
const OTHERS = { v: 'from here', f: 'frame', g: 'midi' } as const;
export type PageAction = (typeof OTHERS)[keyof typeof OTHERS];
export type BarAction = (typeof BARS)[keyof typeof BARS];

type Pressed = Pick<React.KeyboardEvent, 'key' | 'shiftKey' | 'ctrlKey' | 'metaKey' | 'altKey'>;

/** What a key does to a note, to its length and signs, or to its bar; null for any other key. */
export const noteKey = ({
  key,
  shiftKey,
  ctrlKey,
  metaKey,
  altKey,
}: Pressed): { move: NoteMove } | { edit: NoteEdit } | { bar: BarAction } | { page: PageAction } | null => {
  if (altKey) return null;
  if (ctrlKey || metaKey) {
    const bar = BARS[key.toLowerCase() as keyof typeof BARS];
    return bar && !shiftKey ? { bar } : null;
  }
  const page = OTHERS[key.toLowerCase() as keyof typeof OTHERS];
  if (page) return { page };
  const moves = MOVES[key];
  if (moves) return { move: moves[shiftKey ? 1 : 0] };
  const edit = shiftKey && WITH_SHIFT[key] ? WITH_SHIFT[key] : EDITS[key.toLowerCase()];
  return edit ? { edit } : null;
};

/** The keys, in words. */
export const NOTE_HELP =
  '↑ ↓: a step, with Shift a semitone · Shift with ← →: shorter, longer · J: tied on · E: accent · S: short · H: held · N: its other name · X: a rest · its bar: Ctrl with C copy, X cut, V put in before it, Enter a bar of silence; V alone: bars from here to where you copy or cut · F: meter, key, clef · G: notes from MIDI';
