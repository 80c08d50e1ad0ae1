import type { Ease } from '@isochron/core/schema';
import type { KeyHint } from './KeyHints';
import type { BenchActs } from './use-bench-keys';

/** The key of each answer to how a repetition felt, in the order in which they are offered. */
const EASE_KEYS: readonly { keyName: string; ease: Ease; words: string }[] = [
  { keyName: '1', ease: 'easy', words: 'easy' },
  { keyName: '2', ease: 'working', words: 'working' },
  { keyName: '3', ease: 'tense', words: 'tense' },
  { keyName: '0', ease: 'pain', words: 'it hurts: stop' },
];

/** What the answers do, given who is told. */
export const easeActs = (tell: (ease: Ease) => void): BenchActs =>
  Object.fromEntries(EASE_KEYS.map(({ ease }) => [ease, () => tell(ease)]));

/** The answers as they are offered; the one that was given is said. */
export const easeHints = (tell: (ease: Ease) => void, given: Ease | null): KeyHint[] =>
  EASE_KEYS.map(({ keyName, ease, words }) => ({
    keyName,
    does: ease === given ? `felt ${words}` : words,
    act: () => tell(ease),
  }));
