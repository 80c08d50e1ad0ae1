const range = (from: number, to: number, step: number): number[] =>
  Array.from({ length: Math.round((to - from) / step) }, (_, k) => from + k * step);

/**
 * The traditional metronome marks: 40–60 by 2, –72 by 3, –120 by 4, –144 by 6, –208 by 8 (common practice, no source).
 * Ascending, in beats per minute.
 */
export const TRADITIONAL_MARKS: readonly number[] = [
  ...range(40, 60, 2),
  ...range(60, 72, 3),
  ...range(72, 120, 4),
  ...range(120, 144, 6),
  ...range(144, 208, 8),
  208,
];

const SLOWEST = TRADITIONAL_MARKS[0] as number;
const FASTEST = TRADITIONAL_MARKS.at(-1) as number;

/** Where there are no marks, a notch is so much of the tempo, in whole beats per minute: about what it is between them. */
const SHARE = 0.04;

/** The next mark up or down from a tempo. */
const nextMark = (bpm: number, isUp: boolean): number => {
  const step = Math.max(1, Math.round(SHARE * bpm));
  if (isUp) {
    if (bpm >= FASTEST) return bpm + step;
    return bpm < SLOWEST ? Math.min(SLOWEST, bpm + step) : (TRADITIONAL_MARKS.find((mark) => mark > bpm) as number);
  }
  if (bpm <= SLOWEST) return bpm - step;
  return bpm > FASTEST ? Math.max(FASTEST, bpm - step) : (TRADITIONAL_MARKS.findLast((mark) => mark < bpm) as number);
};

/**
 * The mark `count` notches above (positive) or below (negative) a tempo. A tempo between two marks counts its first notch to the
 * neighbouring mark. Below 40 and above 208 notches go on by 4 % of the tempo.
 */
export const notchesFrom = (tempoBpm: number, count: number): number => {
  let bpm = tempoBpm;
  for (let k = 0; k < Math.abs(count); k += 1) bpm = nextMark(bpm, count > 0);
  return bpm;
};
