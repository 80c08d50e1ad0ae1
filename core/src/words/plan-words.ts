import { bpmWords, type CodesOf, countWords, type Sentence } from './reader';

/** Start tempos, today's lines, what a drill is for, and the questions asked when a tempo will not come clean. */
export const PLAN_WORDS = {
  'start-half-goal': (values) => `First day: about half the goal of ${bpmWords(values.number('goal'))}.`,
  'start-floor': (values) => `${bpmWords(values.number('bpm'))} is about as slow as a beat can still be felt.`,
  'start-goal': () => 'At the goal.',
  'start-again': (values) => `Nothing could be judged, so it begins at ${bpmWords(values.number('bpm'))} again.`,
  'start-kept': (values) => `${bpmWords(values.number('bpm'))} was clean, so it begins there again.`,
  'start-under-clean': (values) =>
    `Two notches under ${bpmWords(values.number('best'))}, the fastest clean one that was not tense.`,
  'start-share-under': (values) => `5 % under ${bpmWords(values.number('best'))}, the fastest clean one that was not tense.`,
  'start-none-clean': (values) => `Nothing was clean yet; at ${bpmWords(values.number('bpm'))} it probably would be.`,
  'start-under-closing': (values) => `Two notches under ${bpmWords(values.number('summary'))}, where the last take closed.`,
  'count-in': (values) => `${countWords(values.number('bars'), 'bar', 'bars')} of count-in, in the value of the first note.`,
  'ask-step': (values) => {
    const value = values.number('ms');
    return `The step from note ${values.number('note')} to the next was ${Math.abs(value).toFixed(0)} ms too ${value > 0 ? 'long' : 'short'}. Is it that one?`;
  },
  'ask-smaller': () => 'Would it go slower, or in a smaller piece?',
  'ask-fingering': () => 'Another fingering, stroke or starting hand?',
  'ask-movement': () => 'If it feels hard even very slowly, the fingering or the movement is the suspect, not the speed.',
} satisfies Record<string, Sentence>;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'plan', typeof PLAN_WORDS> {}
}
