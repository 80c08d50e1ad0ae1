import { PAIN_ADVICE } from './pain-advice';
import { bpmWords, type CodesOf, countWords, type Sentence, type Values } from './reader';

const bpm = (values: Values, name = 'bpm') => bpmWords(values.number(name));

/** Why the tempo goes where it goes, by the code of the school, the guard or the player. */
export const DECISION_WORDS = {
  pain: () => `Stop here. ${PAIN_ADVICE}`,
  tense: (values) => `That felt tense: down to ${bpm(values)}, and stay until it is loose.`,
  'not-judged': (values) => `Not judged, so nothing changes: again at ${bpm(values)}.`,
  problem: (values) =>
    `It did not come clean ${values.number('tries')} times in a row. Time to look at the passage instead of repeating it.`,
  slowest: (values) => `It goes no slower than this: again at ${bpm(values)}.`,
  fastest: (values) => `It goes no faster than this: again at ${bpm(values)}.`,
  'as-answered': (values) => `As you answered for the repetition before: now ${bpm(values)}.`,
  'your-choice': (values) => `Your choice: ${bpm(values)}. (The tempo plan said ${bpm(values, 'strategy')}.)`,
  goal: (values) => {
    const times = values.maybe('times');
    return `Clean at ${bpm(values)}${times === null ? '' : `, ${times} times in a row`}: the goal is reached.`;
  },
  'climb-goal': (values) =>
    `Clean at the goal: ${countWords(values.number('more'), 'more', 'more')} in a row at ${bpm(values)} to be sure of it.`,
  'climb-sure': (values) =>
    `Clean: ${countWords(values.number('more'), 'more', 'more')} in a row at ${bpm(values)}, so near to where it got hard.`,
  'climb-step': (values) => `Clean: one step up to ${bpm(values)}.`,
  'climb-nudge': (values) => `Clean: a nudge up to ${bpm(values)}.`,
  'climb-close': (values) => `Close: once more at ${bpm(values)}.`,
  'climb-once-more': (values) => `Not yet: once more at ${bpm(values)} before going down.`,
  'climb-broken': (values) => `It came apart: below that, at ${bpm(values)}.`,
  'climb-stuck': (values) => `Not clean again and again: a little below, at ${bpm(values)}.`,
  'climb-far': (values) => `That is well above what is clean now: down to ${bpm(values)}, where it probably would be.`,
  'climb-below': (values) => `Twice not clean: just below, at ${bpm(values)}, then nudge up.`,
  'beyond-back': (values) =>
    `Clean at ${bpm(values, 'beyond')}, beyond the goal: now back to ${bpm(values)}, where it should feel easy.`,
  'few-notes': (values) =>
    `Clean, but it is only a few notes: ${countWords(values.number('more'), 'more', 'more')} in a row at ${bpm(values)} before it goes up.`,
  'least-repetitions': (values) =>
    `Clean: ${countWords(values.number('more'), 'more repetition', 'more repetitions')} at ${bpm(values)} before it goes up, as you set it.`,
  'notch-count': (values) => `Clean: ${values.number('done')} of ${values.number('of')} in a row at ${bpm(values)}.`,
  'notch-up': (values) => `${values.number('times')} in a row, clean: one notch up to ${bpm(values)}.`,
  'notch-anew': (values) => `Not clean, so the count of ${values.number('of')} begins anew at ${bpm(values)}.`,
  'notch-again': (values) => `Again at ${bpm(values)}, until ${values.number('of')} in a row are clean.`,
  'notch-down': (values) => `It stays stuck here: one notch down to ${bpm(values)}.`,
  'stamina-limit': (values) =>
    `${bpm(values, 'limit')} is the limit for now: down to ${bpm(values)}, and hold it there, loose.`,
  'stamina-hold': (values) => `Held clean ${countWords(values.number('times'), 'time', 'times')}: again at ${bpm(values)}.`,
  'stamina-nudge': (values) => `Held clean ${values.number('times')} times: a nudge up to ${bpm(values)}.`,
  'stamina-down': (values) => `No longer clean: a little down to ${bpm(values)}, and hold it there.`,
  'week-finding': (values) => `Clean with ease: up to ${bpm(values)}, to find the tempo of the week.`,
  'week-tell': (values) => `Once more at ${bpm(values)}, to find the tempo of the week.`,
  'week-found': (values) => `Clean: ${bpm(values)} is the tempo of the week.`,
  'week-found-below': (values) => `Not clean: the tempo of the week is a step below, ${bpm(values)}.`,
  'week-same': (values) =>
    `Clean: ${bpm(values)} for this week. ${countWords(values.number('days'), 'good day', 'good days')} so far, of ${values.number('of')}.`,
  'week-step': (values) => `${values.number('days')} good days: one step up to ${bpm(values)}, for the week to come.`,
  'week-once-more': (values) => `Not clean: again at ${bpm(values)}, the tempo of the week.`,
  'week-down': (values) => `Not clean again and again: the week goes on at ${bpm(values)}.`,
  'stairs-count': (values) =>
    `Clean: ${countWords(values.number('more'), 'more', 'more')} in a row at ${bpm(values)} for a step up.`,
  'stairs-up': (values) => `Clean: a step up to ${bpm(values)}.`,
  'stairs-down': (values) => `Not clean: down to ${bpm(values)}.`,
  'adaptive-learning': (values) => `Again at ${bpm(values)}: too little is known yet to say more.`,
  'adaptive-up': (values) => `Clean: up to ${bpm(values)}, where about ${values.number('percent')} in 100 would be clean.`,
  'adaptive-same': (values) => `Again at ${bpm(values)}, where about ${values.number('percent')} in 100 are clean.`,
  'adaptive-down': (values) => `Down to ${bpm(values)}, where about ${values.number('percent')} in 100 would be clean.`,
  'sweep-again': (values) => `The sweep came apart before it told anything: once more, around ${bpm(values)}.`,
  'sweep-held': (values) => `It held together all the way: the next sweep lies around ${bpm(values)}.`,
  'sweep-goal': (values) => `It held together beyond the goal: now ${bpm(values)}, until it is sure.`,
  'sweep-broke': (values) => {
    const [first, second] = [values.maybe('first'), values.maybe('second')];
    const notes = first === null ? '' : second === null ? `note ${first}` : `notes ${first} and ${second}`;
    const accents = notes
      ? `${notes} went first: accent ${second === null ? 'it' : 'them'}, and the beats`
      : 'accent the beats';
    return `Evenness broke at about ${values.number('break')}: the work is under that, at ${bpm(values)}; ${accents}.`;
  },
  'break-work': (values) =>
    `Clean at ${bpm(values)}: ${countWords(values.number('more'), 'more', 'more')}, then another sweep.`,
  'break-sweep': (values) => `Clean ${values.number('times')} times: another sweep, around ${bpm(values)}.`,
  'break-down': (values) => `Not clean: a little lower, at ${bpm(values)}.`,
  'burst-gap': (values) => `Bursts come out at about ${values.number('burst')}; the whole stands at ${bpm(values)}.`,
  'burst-none': (values) => `No even burst yet: loose and short. The whole stands at ${bpm(values)}.`,
  'finish-begin': (values) => `It begins to come apart: down to ${bpm(values)} for a loose finish.`,
  'finish-wish': (values) => `To finish loose: ${bpm(values)}.`,
  'finish-looser': (values) => `Looser still: ${bpm(values)}.`,
  'finish-more': (values) => `Clean and loose: ${countWords(values.number('more'), 'more', 'more')} like this, and that is it.`,
  'finish-done': (values) => `${values.number('times')} loose ones at ${bpm(values)}: a good place to stop.`,
  'time-up': () => 'The time for this is up.',
  'next-drill': (values) => `Clean: the next one, ${values.number('number')} of ${values.number('of')}, at ${bpm(values)}.`,
  'next-piece': (values) =>
    `At the goal: the next piece, ${values.number('number')} of ${values.number('of')}, from ${bpm(values)} on.`,
  'free-clean': (values) => `Clean at ${bpm(values)}. Up, down or again is yours to say.`,
  'free-same': (values) => `Again at ${bpm(values)}, until you change it.`,
  'from-file': () => 'Read from a file; no tempo was decided.',
} satisfies Record<string, Sentence>;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'decision', typeof DECISION_WORDS> {}
}
