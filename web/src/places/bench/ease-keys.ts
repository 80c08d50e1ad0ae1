import type { Ease } from '@isochron/core';

/** The key of each answer to how a repetition felt. */
export const EASE_KEYS: Record<string, Ease> = { '1': 'easy', '2': 'working', '3': 'tense', '0': 'pain' };

/** The answers as the player reads them. */
export const EASE_WORDS: Record<Ease, string> = { easy: 'easy', working: 'working', tense: 'tense', pain: 'painful' };

/** What the keys do, given who is told. */
export const easeKeys = (tell: (ease: Ease) => void): Record<string, () => void> =>
  Object.fromEntries(Object.entries(EASE_KEYS).map(([key, ease]) => [key, () => tell(ease)]));
