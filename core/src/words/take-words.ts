import { bpmWords, type CodesOf, type Dictionary, number, say, text } from './reader';

/** What a take came to against the one before it, and what takes have in common. */
export const TAKE_WORDS = {
  'take-none': say({}, () => 'Nothing was clean this time.'),
  'take-none-after-clean': say(
    { beforeBpm: number },
    (values) => `Nothing was clean this time; last time it was clean at ${bpmWords(values.beforeBpm)}.`,
  ),
  'take-clean': say({ bpm: number }, (values) => `Clean at ${bpmWords(values.bpm)}.`),
  'take-clean-after-none': say({ bpm: number }, (values) => `Clean at ${bpmWords(values.bpm)}; last time nothing was.`),
  'take-faster': say(
    { bpm: number, byBpm: number },
    (values) => `Clean at ${bpmWords(values.bpm)}, ${bpmWords(values.byBpm)} faster than last time.`,
  ),
  'take-as-fast': say({ bpm: number }, (values) => `Clean at ${bpmWords(values.bpm)}, as last time.`),
  'take-slower': say(
    { bpm: number, beforeBpm: number },
    (values) => `Clean at ${bpmWords(values.bpm)}; last time at ${bpmWords(values.beforeBpm)}.`,
  ),
  'tried-helped': say(
    { bestBpm: number, atBpm: number },
    ({ bestBpm, atBpm }) => `Since then clean at ${bpmWords(bestBpm)}; it was tried because ${bpmWords(atBpm)} would not come.`,
  ),
  'tried-not-yet': say(
    { bestBpm: number, atBpm: number },
    ({ bestBpm, atBpm }) => `Since then clean at ${bpmWords(bestBpm)}, not yet at ${bpmWords(atBpm)}, for which it was tried.`,
  ),
  'often-weak': say({ title: text, from: number, ms: number, takes: number }, ({ title, from, ms, takes }) => {
    const by = Math.max(1, Math.round(Math.abs(ms)));
    return `Off most often in these thirty days: ${title}, note ${from} to ${from + 1}, ${by} ms too ${ms > 0 ? 'long' : 'short'} on average in ${takes} takes.`;
  }),
} satisfies Dictionary;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'take', typeof TAKE_WORDS> {}
}
