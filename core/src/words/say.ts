import type { Why } from '../schema/why';
import { DECISION_WORDS } from './decision-words';
import { FINDING_WORDS } from './finding-words';
import { PLAN_WORDS } from './plan-words';
import { type Reader, type Sentence, valuesOf } from './reader';
import { VERDICT_WORDS } from './verdict-words';

/** Every sentence, by the code of its reason. */
export const SENTENCES: Record<string, Sentence> = {
  ...VERDICT_WORDS,
  ...DECISION_WORDS,
  ...PLAN_WORDS,
  ...FINDING_WORDS,
};

/**
 * The sentence of a reason, for a reader. What an old version stored as a sentence is said as it was; a code that is not known
 * (of a later version) says nothing rather than something wrong.
 */
export const say = (why: Why, reader: Reader): string => why.words ?? SENTENCES[why.code]?.(valuesOf(why), reader) ?? '';
