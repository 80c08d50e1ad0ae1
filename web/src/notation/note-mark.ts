import type { GridNote } from '@isochron/core/schema';

const HAND_LETTERS = { left: 'L', right: 'R' } as const;
const STROKE_SIGNS = { up: '↑', down: '↓' } as const;

/** What is written beside a note; hands only where the staves do not tell them. */
export const markOf = ({ marks }: GridNote, writesHands: boolean): string =>
  [
    marks.finger ?? marks.stick ?? '',
    marks.string ? `s${marks.string}` : '',
    marks.stroke ? STROKE_SIGNS[marks.stroke] : '',
    marks.sign ?? '',
    marks.hand && writesHands && !marks.finger ? HAND_LETTERS[marks.hand] : '',
    marks.breath ? '’' : '',
    marks.difficult ? '!' : '',
  ]
    .filter(Boolean)
    .join('\u2009');
