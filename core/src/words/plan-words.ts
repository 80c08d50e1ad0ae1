import { bpmWords, type CodesOf, countWords, type Dictionary, number, say } from './reader';

/** Start tempos, today's lines, what a drill is for, and the questions asked when a tempo will not come clean. */
export const PLAN_WORDS = {
  'start-half-goal': say({ goal: number }, (values) => `First day: about half the goal of ${bpmWords(values.goal)}.`),
  'start-floor': say({ bpm: number }, (values) => `${bpmWords(values.bpm)} is about as slow as a beat can still be felt.`),
  'start-after-pain': say({ bpm: number }, ({ bpm }) => `It hurt lately: clearly lower than usual, at ${bpmWords(bpm)}.`),
  'start-goal': say({}, () => 'At the goal.'),
  'start-again': say({ bpm: number }, (values) => `Nothing could be judged, so it begins at ${bpmWords(values.bpm)} again.`),
  'start-kept': say({ bpm: number }, (values) => `${bpmWords(values.bpm)} was clean, so it begins there again.`),
  'start-under-clean': say(
    { best: number },
    (values) => `Two notches under ${bpmWords(values.best)}, the fastest clean one that was not tense.`,
  ),
  'start-share-under': say(
    { best: number },
    (values) => `5 % under ${bpmWords(values.best)}, the fastest clean one that was not tense.`,
  ),
  'start-none-clean': say(
    { bpm: number },
    (values) => `None of it was clean; at ${bpmWords(values.bpm)} it probably would be.`,
  ),
  'start-under-closing': say(
    { summary: number },
    (values) => `Two notches under ${bpmWords(values.summary)}, where the last take closed.`,
  ),
  'count-in': say(
    { bars: number },
    (values) => `${countWords(values.bars, 'bar', 'bars')} of count-in, in the value of the first note.`,
  ),
  'ask-step': say({ ms: number, note: number }, (values) => {
    const value = values.ms;
    return `The step from note ${values.note} to the next was about ${Math.abs(value).toFixed(0)} ms too ${value > 0 ? 'long' : 'short'} again and again. Is it that one?`;
  }),
  'ask-breaks': say(
    { bar: number, breaks: number, reached: number },
    ({ bar, breaks, reached }) =>
      `It broke in ${bar === 1 ? 'the first bar' : `bar ${bar} of it`} in ${breaks} of the ${reached} repetitions that came so far. What is hard there?`,
  ),
  'ask-floor': say(
    { slow: number, fast: number, ms: number },
    ({ slow, fast, ms }) =>
      `The spread stays about ${ms.toFixed(0)} ms between ${bpmWords(slow)} and ${bpmWords(fast)}: going slower does not make it steadier. What may help: headphones and measuring the delay again, other music, or a wider tolerance.`,
  ),
  'ask-smaller': say({}, () => 'Would it go slower, or in a smaller piece?'),
  'ask-fingering': say({}, () => 'Another fingering, stroke or starting hand?'),
  'ask-movement': say(
    {},
    () => 'If it feels hard even very slowly, the fingering or the movement is the suspect, not the speed.',
  ),
} satisfies Dictionary;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'plan', typeof PLAN_WORDS> {}
}
