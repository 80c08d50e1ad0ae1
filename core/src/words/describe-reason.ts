import type { Drill } from '../schema/grid';
import type { Reason } from '../schema/reason';
import { DAY_WORDS } from './day-words';
import { DECISION_WORDS } from './decision-words';
import { FINDING_WORDS } from './finding-words';
import { MATERIAL_WORDS } from './material-words';
import { DRILL_TITLES } from './method-words';
import { PLAN_WORDS } from './plan-words';
import { PLAY_ALONG_WORDS } from './play-along-words';
import type { Dictionary, Reader } from './reader';
import { TAKE_WORDS } from './take-words';
import { TEMPO_WORDS } from './tempo-words';
import { VERDICT_WORDS } from './verdict-words';

/** The dictionaries of reasons. No code is in two of them: one of its sentences would be said in the place of the other. */
export const DICTIONARIES: readonly Dictionary[] = [
  VERDICT_WORDS,
  DECISION_WORDS,
  PLAN_WORDS,
  DAY_WORDS,
  FINDING_WORDS,
  MATERIAL_WORDS,
  TEMPO_WORDS,
  TAKE_WORDS,
  PLAY_ALONG_WORDS,
];

/** Every sentence, by the code of its reason. */
export const SENTENCES: Dictionary = Object.assign({}, ...DICTIONARIES);

/** What stored codes name: any of them, known today or not. */
const TITLES: Dictionary = DRILL_TITLES;

/**
 * The sentence of a reason, for a reader. What an old version stored as a sentence is said as it was; a code that is not known
 * (of a later version) says nothing rather than something wrong.
 */
export const describeReason = (why: Reason, reader: Reader): string =>
  why.words ?? SENTENCES[why.code]?.of(why.values, reader) ?? '';

/** What a drill is called: the parts that its methods gave it. */
export const drillName = ({ titles = [] }: Pick<Drill, 'titles'>, reader: Reader): string =>
  titles
    .map((title) => TITLES[title.code]?.of(title.values, reader) ?? '')
    .filter(Boolean)
    .join(' · ');
