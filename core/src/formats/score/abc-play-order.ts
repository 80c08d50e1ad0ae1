import { MAX_BARS, type ScoreBar, UnreadableScore } from './score';

/**
 * The parts of a tune in the order in which they are played: letters, groups in brackets, and how often (`P:(AB)3`, `A2B`). Source: the ABC
 * music standard 2.1, 3.1.9. Null for what is no order.
 */
export const playOrder = (text: string): string[] | null => {
  const signs = [...text.replace(/[\s.]/g, '')];
  let place = 0;
  const times = (): number => {
    let digits = '';
    while (/\d/.test(signs[place] ?? '')) {
      digits += signs[place];
      place += 1;
    }
    return digits === '' ? 1 : Math.min(Number(digits), MAX_BARS);
  };
  const repeated = (parts: readonly string[]): string[] => {
    const often = times();
    if (parts.length * often > MAX_BARS) throw new UnreadableScore(`This has more than ${MAX_BARS} bars. Take a part of it.`);
    return Array.from({ length: often }, () => parts).flat();
  };
  const group = (depth: number): string[] | null => {
    const parts: string[] = [];
    while (place < signs.length && signs[place] !== ')') {
      const sign = signs[place] as string;
      place += 1;
      if (sign === '(') {
        const inner = depth < 20 ? group(depth + 1) : null;
        if (!inner || signs[place] !== ')') return null;
        place += 1;
        parts.push(...repeated(inner));
      } else if (/[A-Z]/i.test(sign)) parts.push(...repeated([sign]));
      else return null;
    }
    return parts;
  };
  const parts = group(0);
  return parts && place === signs.length && parts.length > 0 ? parts : null;
};

/**
 * The bars of a tune in the order of its parts; as they stand where no order is given, or one names a part that is not there.
 *
 * @param starts where each part begins, by bar from 0
 */
export const inPlayOrder = (
  bars: readonly ScoreBar[],
  starts: readonly { name: string; bar: number }[],
  order: readonly string[],
): ScoreBar[] => {
  const pieces = new Map(starts.map(({ name, bar }, k) => [name, bars.slice(bar, starts[k + 1]?.bar)]));
  if (!order.every((name) => pieces.has(name))) return [...bars];
  const played = order.flatMap((name) => {
    // What is repeated in a part is repeated from its beginning on.
    return (pieces.get(name) ?? []).map((bar, k) => ({
      ...bar,
      // Notes of their own, as often as they are played.
      notes: bar.notes.map((note) => ({ ...note })),
      ...(k === 0 ? { startsRepeat: true } : {}),
    }));
  });
  if (played.length > MAX_BARS) throw new UnreadableScore(`This has more than ${MAX_BARS} bars. Take a part of it.`);
  return played;
};
