import type { StripSystem } from './strip-layout';

/** So many systems are in view while one follows the playing: the one that is played, the one before and the one after. */
const IN_VIEW = 3;

/** The systems in view while a beat is played; all where there are no more. */
export const systemsInView = (systems: readonly StripSystem[], positions: readonly number[], beat: number): StripSystem[] => {
  const played = Math.max(
    0,
    systems.findLastIndex(({ from }) => (positions[from] ?? 0) <= beat),
  );
  const first = Math.max(0, Math.min(played - 1, systems.length - IN_VIEW));
  return systems.slice(first, first + IN_VIEW);
};

/** The least width that a bar is marked with, in pixels. */
const LEAST_MARK = 12;

/** Where the bar that a beat lies in is drawn in a system, in pixels; null where it is in another one. */
export const barInSystem = (
  { beatX, left, right }: StripSystem,
  lines: readonly number[],
  beat: number,
): { x: number; width: number } | null => {
  const bar = Math.max(
    0,
    lines.findLastIndex((line) => line <= beat),
  );
  const from = beatX(lines[bar] ?? 0);
  const to = beatX(lines[bar + 1] ?? beat);
  if (to <= left || from > right) return null;
  const x = Math.max(from, left);
  return { x, width: Math.max(LEAST_MARK, Math.min(to, right) - x) };
};
