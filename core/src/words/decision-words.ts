import { PAIN_ADVICE } from './pain-advice';
import { bpmWords, type CodesOf, countWords, type Dictionary, maybe, number, say } from './reader';

/** Why the tempo goes where it goes, by the code of the strategy, the guard or the player. */
export const DECISION_WORDS = {
  pain: say({}, () => `Stop here. ${PAIN_ADVICE}`),
  tense: say({ bpm: number }, (values) => `That felt tense: down to ${bpmWords(values.bpm)}, and stay until it is loose.`),
  'until-easy': say(
    { bpm: number },
    (values) => `Clean at ${bpmWords(values.bpm)}. It felt tense before: again, until you answer that it is easy.`,
  ),
  'problem-tense': say(
    { times: number },
    (values) =>
      `It felt tense ${values.times} times, and not easy since. Time to look at how it is played instead of repeating it.`,
  ),
  'not-judged': say({ bpm: number }, (values) => `Not judged, so nothing changes: again at ${bpmWords(values.bpm)}.`),
  'broke-off': say(
    { bpm: number },
    (values) => `Breaking off once says nothing about the tempo: again at ${bpmWords(values.bpm)}.`,
  ),
  'retake-clean': say({ bpm: number }, (values) => `That place holds: from the beginning at ${bpmWords(values.bpm)}.`),
  'retake-again': say({ bpm: number }, (values) => `The same place again at ${bpmWords(values.bpm)}.`),
  'retake-enough': say(
    { bpm: number },
    (values) => `Enough of that place for now: from the beginning at ${bpmWords(values.bpm)}.`,
  ),
  stumbled: say({ bpm: number }, (values) => `A stumble can happen to anyone: again at ${bpmWords(values.bpm)}.`),
  problem: say(
    { tries: number },
    (values) => `It did not come clean ${values.tries} times in a row. Time to look at the passage instead of repeating it.`,
  ),
  'problem-slow': say(
    { tries: number, bpm: number },
    ({ tries, bpm }) =>
      `Not clean ${tries} times in a row, and ${bpmWords(bpm)} is slow already. The fingering or the movement is the suspect, not the speed.`,
  ),
  'problem-tense-slow': say(
    { times: number, bpm: number },
    ({ times, bpm }) =>
      `Tense ${times} times, and ${bpmWords(bpm)} is slow already. The fingering or the movement is the suspect, not the speed.`,
  ),
  strain: say(
    { cleans: number, of: number, bpm: number },
    ({ cleans, of, bpm }) =>
      `${cleans === 0 ? 'None' : cleans} of the last ${of} clean: that is above what holds now. Down to ${bpmWords(bpm)}.`,
  ),
  slowest: say({ bpm: number }, (values) => `It goes no slower than this: again at ${bpmWords(values.bpm)}.`),
  fastest: say({ bpm: number }, (values) => `It goes no faster than this: again at ${bpmWords(values.bpm)}.`),
  'as-answered': say({ bpm: number }, (values) => `As you answered for the repetition before: now ${bpmWords(values.bpm)}.`),
  'your-choice': say(
    { bpm: number, strategy: number },
    (values) => `Your choice: ${bpmWords(values.bpm)}. (The tempo plan said ${bpmWords(values.strategy)}.)`,
  ),
  goal: say({ times: maybe, bpm: number }, (values) => {
    const times = values.times;
    return `Clean at ${bpmWords(values.bpm)}${times === null ? '' : `, ${times} times in a row`}: the goal is reached.`;
  }),
  'climb-goal': say(
    { more: number, bpm: number },
    (values) =>
      `Clean at the goal: ${countWords(values.more, 'more', 'more')} in a row at ${bpmWords(values.bpm)} to be sure of it.`,
  ),
  'climb-sure': say(
    { more: number, bpm: number },
    (values) =>
      `Clean: ${countWords(values.more, 'more', 'more')} in a row at ${bpmWords(values.bpm)}, so near to where it got hard.`,
  ),
  'climb-step': say({ bpm: number }, (values) => `Clean: one step up to ${bpmWords(values.bpm)}.`),
  'climb-nudge': say({ bpm: number }, (values) => `Clean: a nudge up to ${bpmWords(values.bpm)}.`),
  'climb-close': say({ bpm: number }, (values) => `Close: once more at ${bpmWords(values.bpm)}.`),
  'climb-once-more': say({ bpm: number }, (values) => `Not yet: once more at ${bpmWords(values.bpm)} before going down.`),
  'climb-broken': say({ bpm: number }, (values) => `It came apart: below that, at ${bpmWords(values.bpm)}.`),
  'climb-stuck': say({ bpm: number }, (values) => `Not clean again and again: a little below, at ${bpmWords(values.bpm)}.`),
  'climb-far': say(
    { bpm: number },
    (values) => `That is well above what is clean now: down to ${bpmWords(values.bpm)}, where it probably would be.`,
  ),
  'climb-below': say({ bpm: number }, (values) => `Still not clean: just below, at ${bpmWords(values.bpm)}.`),
  'beyond-back': say(
    { beyond: number, bpm: number },
    (values) =>
      `Clean at ${bpmWords(values.beyond)}, beyond the goal: now back to ${bpmWords(values.bpm)}, where it should feel easy.`,
  ),
  'few-notes': say(
    { more: number, bpm: number },
    (values) =>
      `Clean, but it is only a few notes: ${countWords(values.more, 'more', 'more')} in a row at ${bpmWords(values.bpm)} before it goes up.`,
  ),
  'least-repetitions': say(
    { more: number, bpm: number },
    (values) =>
      `Clean: ${countWords(values.more, 'more repetition', 'more repetitions')} at ${bpmWords(values.bpm)} before it goes up, as you set it.`,
  ),
  'notch-count': say(
    { done: number, of: number, bpm: number },
    (values) => `Clean: ${values.done} of ${values.of} in a row at ${bpmWords(values.bpm)}.`,
  ),
  'notch-up': say(
    { times: number, bpm: number },
    (values) => `${values.times} in a row, clean: up to ${bpmWords(values.bpm)}.`,
  ),
  'notch-anew': say(
    { of: number, bpm: number },
    (values) => `Not clean, so the count of ${values.of} begins anew at ${bpmWords(values.bpm)}.`,
  ),
  'notch-again': say(
    { of: number, bpm: number },
    (values) => `Again at ${bpmWords(values.bpm)}, until ${values.of} in a row are clean.`,
  ),
  'notch-down': say({ bpm: number }, (values) => `It stays stuck here: one notch down to ${bpmWords(values.bpm)}.`),
  'stamina-limit': say(
    { limit: number, bpm: number },
    (values) => `${bpmWords(values.limit)} is the limit for now: down to ${bpmWords(values.bpm)}, and hold it there, loose.`,
  ),
  'stamina-hold': say(
    { times: number, bpm: number },
    (values) => `Held clean ${countWords(values.times, 'time', 'times')}: again at ${bpmWords(values.bpm)}.`,
  ),
  'stamina-nudge': say(
    { times: number, bpm: number },
    (values) => `Held clean ${values.times} times: a nudge up to ${bpmWords(values.bpm)}.`,
  ),
  'stamina-down': say(
    { bpm: number },
    (values) => `No longer clean: a little down to ${bpmWords(values.bpm)}, and hold it there.`,
  ),
  'week-finding': say(
    { bpm: number },
    (values) => `Clean with ease: up to ${bpmWords(values.bpm)}, to find the tempo of the week.`,
  ),
  'week-tell': say({ bpm: number }, (values) => `Once more at ${bpmWords(values.bpm)}, to find the tempo of the week.`),
  'week-found': say({ bpm: number }, (values) => `Clean: ${bpmWords(values.bpm)} is the tempo of the week.`),
  'week-found-below': say(
    { bpm: number },
    (values) => `Not clean: the tempo of the week is a step below, ${bpmWords(values.bpm)}.`,
  ),
  'week-same': say({ days: number, of: number, bpm: number, today: maybe }, ({ days, of, bpm, today }) => {
    // Decisions of earlier versions do not say how the day goes.
    const so = today === null ? '' : today ? '; today is one as well so far' : '; not yet today';
    return `Clean: ${bpmWords(bpm)} for this week. ${countWords(days, 'good day', 'good days')} of ${of}${so}.`;
  }),
  'week-step': say(
    { days: number, bpm: number },
    (values) => `${values.days} good days: one step up to ${bpmWords(values.bpm)}, for the week to come.`,
  ),
  'week-once-more': say({ bpm: number }, (values) => `Not clean: again at ${bpmWords(values.bpm)}, the tempo of the week.`),
  'week-down': say({ bpm: number }, (values) => `Not clean again and again: the week goes on at ${bpmWords(values.bpm)}.`),
  'stairs-count': say(
    { more: number, bpm: number },
    (values) => `Clean: ${countWords(values.more, 'more', 'more')} in a row at ${bpmWords(values.bpm)} for a step up.`,
  ),
  'stairs-up': say({ bpm: number }, (values) => `Clean: a step up to ${bpmWords(values.bpm)}.`),
  'stairs-down': say({ bpm: number }, (values) => `Not clean: down to ${bpmWords(values.bpm)}.`),
  'adaptive-learning': say(
    { bpm: number },
    (values) => `Again at ${bpmWords(values.bpm)}: too little is known yet to say more.`,
  ),
  'adaptive-up': say(
    { percent: number, bpm: number },
    (values) => `Clean: up to ${bpmWords(values.bpm)}, where about ${values.percent} in 100 would be clean.`,
  ),
  'adaptive-same': say(
    { percent: number, bpm: number },
    (values) => `Again at ${bpmWords(values.bpm)}, where about ${values.percent} in 100 are clean.`,
  ),
  'adaptive-aside': say(
    { bpm: number },
    (values) => `Clean. To learn more about where it gets hard, now ${bpmWords(values.bpm)}.`,
  ),
  'adaptive-down': say(
    { percent: number, bpm: number },
    (values) => `Down to ${bpmWords(values.bpm)}, where about ${values.percent} in 100 would be clean.`,
  ),
  'sweep-again': say(
    { bpm: number },
    (values) => `The sweep came apart before it told anything: once more, around ${bpmWords(values.bpm)}.`,
  ),
  'sweep-held': say(
    { bpm: number },
    (values) => `It held together all the way: the next sweep lies around ${bpmWords(values.bpm)}.`,
  ),
  'sweep-goal': say(
    { bpm: number },
    (values) => `It held together beyond the goal: now ${bpmWords(values.bpm)}, until it is sure.`,
  ),
  'sweep-broke': say({ first: maybe, second: maybe, break: number, bpm: number }, (values) => {
    const [first, second] = [values.first, values.second];
    const notes = first === null ? '' : second === null ? `note ${first}` : `notes ${first} and ${second}`;
    const accents = notes
      ? `${notes} went first: accent ${second === null ? 'it' : 'them'}, and the beats`
      : 'accent the beats';
    return `Evenness broke at about ${values.break}: the work is under that, at ${bpmWords(values.bpm)}; ${accents}.`;
  }),
  'break-work': say(
    { more: number, bpm: number },
    (values) => `Clean at ${bpmWords(values.bpm)}: ${countWords(values.more, 'more', 'more')}, then another sweep.`,
  ),
  'break-sweep': say(
    { times: number, bpm: number },
    (values) => `Clean ${values.times} times: another sweep, around ${bpmWords(values.bpm)}.`,
  ),
  'break-down': say({ bpm: number }, (values) => `Not clean: a little lower, at ${bpmWords(values.bpm)}.`),
  'burst-gap': say(
    { burst: number, bpm: number },
    (values) => `Bursts come out at about ${values.burst}; the whole stands at ${bpmWords(values.bpm)}.`,
  ),
  'burst-none': say(
    { bpm: number },
    (values) => `No even burst yet: loose and short. The whole stands at ${bpmWords(values.bpm)}.`,
  ),
  'finish-begin': say(
    { bpm: number },
    (values) => `It begins to come apart: down to ${bpmWords(values.bpm)} for a loose finish.`,
  ),
  'finish-wish': say({ bpm: number }, (values) => `To finish loose: ${bpmWords(values.bpm)}.`),
  'finish-looser': say({ bpm: number }, (values) => `Looser still: ${bpmWords(values.bpm)}.`),
  'finish-more': say(
    { more: number },
    (values) => `Clean and loose: ${countWords(values.more, 'more', 'more')} like this, and that is it.`,
  ),
  'finish-done': say(
    { times: number, bpm: number },
    (values) => `${values.times} loose ones at ${bpmWords(values.bpm)}: a good place to stop.`,
  ),
  'time-up': say({}, () => 'The time for this is up.'),
  'next-drill': say(
    { number: number, of: number, bpm: number },
    (values) => `Clean: the next one, ${values.number} of ${values.of}, at ${bpmWords(values.bpm)}.`,
  ),
  'next-piece': say(
    { number: number, of: number, bpm: number },
    (values) => `At the goal: the next piece, ${values.number} of ${values.of}, from ${bpmWords(values.bpm)} on.`,
  ),
  'free-clean': say({ bpm: number }, (values) => `Clean at ${bpmWords(values.bpm)}. Up, down or again is yours to say.`),
  'free-same': say({ bpm: number }, (values) => `Again at ${bpmWords(values.bpm)}, until you change it.`),
  'from-file': say({}, () => 'Read from a file; no tempo was decided.'),
} satisfies Dictionary;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'decision', typeof DECISION_WORDS> {}
}
