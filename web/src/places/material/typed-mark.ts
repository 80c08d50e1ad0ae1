import type { Marks } from '@isochron/core/schema';

/** What a key writes at a note, by `KeyboardEvent.key`: fingers 0 to 5 and p i m a, hands R and L, strokes, breath, difficult, an accent. */
const KEYS: Readonly<Record<string, Partial<Marks>>> = {
  ...Object.fromEntries(['0', '1', '2', '3', '4', '5', 'p', 'i', 'm', 'a'].map((finger) => [finger, { finger }])),
  r: { hand: 'right' },
  l: { hand: 'left' },
  u: { stroke: 'up' },
  d: { stroke: 'down' },
  b: { breath: true },
  '!': { difficult: true },
  '6': { string: '6' },
  t: { sign: 't' },
  k: { sign: 'k' },
  '+': { sign: '+' },
};

/** The mark that a key writes; null for a key that writes none. Capitals write strings' and thumbs' letters the same. */
export const typedMark = (key: string): Partial<Marks> | null => KEYS[key] ?? KEYS[key.toLowerCase()] ?? null;

/** Marks in a few signs, as they stand beside a note. */
export const markWords = ({ finger, hand, stick, stroke, string, breath, difficult, sign }: Marks): string =>
  [
    finger,
    hand && (hand === 'right' ? 'R' : 'L'),
    stick,
    stroke && (stroke === 'up' ? '↑' : '↓'),
    string && `s${string}`,
    breath && '’',
    sign,
    difficult && '!',
  ]
    .filter(Boolean)
    .join('');

/** The keys, in words. */
export const MARK_HELP =
  '0–5, p i m a: finger · R L: hand · U D: stroke · B: breath · T K: tongue · !: difficult · Backspace: no mark · ← →: from note to note';
