import type { Grid, GridEvent } from '../../schema/grid';
import type { Marks } from '../../schema/notation';

/** Another finger than the one that is written, beside it where there is one (our choice). */
const OTHER_FINGER: Readonly<Record<string, string>> = {
  0: '1',
  1: '2',
  2: '1',
  3: '2',
  4: '3',
  5: '4',
  p: 'i',
  i: 'm',
  m: 'i',
  a: 'm',
  c: 'a',
  t: 'i',
};

const otherHand = (marks: Marks): Marks => (marks.hand ? { ...marks, hand: marks.hand === 'left' ? 'right' : 'left' } : marks);

const otherFinger = (marks: Marks): Marks => {
  const finger = marks.finger && OTHER_FINGER[marks.finger];
  return finger ? { ...marks, finger } : marks;
};

const withMarks = (event: GridEvent, change: (marks: Marks) => Marks): GridEvent => ({
  ...event,
  notes: event.notes.map((note) => ({ ...note, marks: change(note.marks) })),
});

/**
 * A pattern as it is played after a turn: by the other hand, every second one, so that each hand leads in turn; or with another finger on its
 * first note.
 *
 * @param turn how many patterns were played before it
 */
export const atTheTurn = (pattern: Grid, how: 'written' | 'hand' | 'finger', turn: number): Grid => {
  const [first, ...rest] = pattern.events;
  if (how === 'written' || !first) return pattern;
  if (how === 'finger') return { ...pattern, events: [withMarks(first, otherFinger), ...rest] };
  return turn % 2 === 0 ? pattern : { ...pattern, events: pattern.events.map((event) => withMarks(event, otherHand)) };
};
