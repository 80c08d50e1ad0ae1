import type { Ease } from '@isochron/core';
import type { KeyHint } from './KeyHints';

/** The key of each answer to how a repetition felt, in the order in which they are offered. */
const EASE_KEYS: readonly { keyName: string; ease: Ease; words: string }[] = [
  { keyName: '1', ease: 'easy', words: 'easy' },
  { keyName: '2', ease: 'working', words: 'working' },
  { keyName: '3', ease: 'tense', words: 'tense' },
  { keyName: '0', ease: 'pain', words: 'it hurts: stop' },
];

/** What the keys do, given who is told. */
export const easeKeys = (tell: (ease: Ease) => void): Record<string, () => void> =>
  Object.fromEntries(EASE_KEYS.map(({ keyName, ease }) => [keyName, () => tell(ease)]));

/** The answers as they are offered; the one that was given is said. */
export const easeHints = (tell: (ease: Ease) => void, given: Ease | null): KeyHint[] =>
  EASE_KEYS.map(({ keyName, ease, words }) => ({
    keyName,
    does: ease === given ? `felt ${words}` : words,
    act: () => tell(ease),
  }));
