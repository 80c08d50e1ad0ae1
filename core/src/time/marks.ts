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

/**
 * The mark `count` notches above (positive) or below (negative) a tempo. A tempo between two marks counts its first
 * notch to the neighbouring mark. Outside the marks the nearest end is returned.
 */
export const notchesFrom = (tempoBpm: number, count: number): number => {
  const marks = TRADITIONAL_MARKS;
  if (count === 0) return tempoBpm;
  const ahead = count > 0 ? marks.filter((mark) => mark > tempoBpm) : marks.filter((mark) => mark < tempoBpm).reverse();
  return ahead[Math.min(Math.abs(count), ahead.length) - 1] ?? (count > 0 ? 208 : 40);
};
