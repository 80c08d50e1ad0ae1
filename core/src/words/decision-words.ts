import { PAIN_ADVICE } from './pain-advice';
import { bpmWords, counted, type Sentence, type Values } from './reader';

const bpm = (values: Values, name = 'bpm') => bpmWords(values.number(name));

/** Why the tempo goes where it goes, by the code of the school, the guard or the player. */
export const DECISION_WORDS: Record<string, Sentence> = {
  pain: () => `Stop here. ${PAIN_ADVICE}`,
  tense: (values) => `That felt tense: down to ${bpm(values)}, and stay until it is loose.`,
  'not-judged': (values) => `Not judged, so nothing changes: again at ${bpm(values)}.`,
  problem: (values) =>
    `It did not come clean ${values.number('tries')} times in a row. Time to look at the passage instead of repeating it.`,
  slowest: (values) => `It goes no slower than this: again at ${bpm(values)}.`,
  fastest: (values) => `It goes no faster than this: again at ${bpm(values)}.`,
  'as-answered': (values) => `As you answered for the repetition before: now ${bpm(values)}.`,
  'your-choice': (values) => `Your choice: ${bpm(values)}. (The school said ${bpm(values, 'school')}.)`,
  goal: (values) => {
    const times = values.maybe('times');
    return `Clean at ${bpm(values)}${times === null ? '' : `, ${times} times in a row`}: the goal is reached.`;
  },
  'climb-goal': (values) =>
    `Clean at the goal: ${counted(values.number('more'), 'more', 'more')} in a row at ${bpm(values)} to be sure of it.`,
  'climb-sure': (values) =>
    `Clean: ${counted(values.number('more'), 'more', 'more')} in a row at ${bpm(values)}, so near to where it got hard.`,
  'climb-step': (values) => `Clean: one step up to ${bpm(values)}.`,
  'climb-nudge': (values) => `Clean: a nudge up to ${bpm(values)}.`,
  'climb-close': (values) => `Close: once more at ${bpm(values)}.`,
  'climb-once-more': (values) => `Not yet: once more at ${bpm(values)} before going down.`,
  'climb-broken': (values) => `It came apart: below that, at ${bpm(values)}.`,
  'climb-stuck': (values) => `Not clean again and again: a little below, at ${bpm(values)}.`,
  'climb-far': (values) => `That is well above what is clean now: down to ${bpm(values)}, where it probably would be.`,
  'climb-below': (values) => `Twice not clean: just below, at ${bpm(values)}, then nudge up.`,
  'free-clean': (values) => `Clean at ${bpm(values)}. Up, down or again is yours to say.`,
  'free-same': (values) => `Again at ${bpm(values)}, until you change it.`,
  'from-file': () => 'Read from a file; no tempo was decided.',
};
