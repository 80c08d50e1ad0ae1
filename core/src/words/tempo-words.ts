import { bpmWords, type CodesOf, countWords, type Dictionary, number, say, text } from './reader';

const range = (bpm: number, low: number, high: number) => `about ${bpmWords(bpm)} (${bpmWords(low)} to ${bpmWords(high)})`;
const against = (percent: number) =>
  percent === 0
    ? 'about what you played next'
    : `${Math.abs(percent)} % ${percent > 0 ? 'above' : 'below'} what you played next`;

/** How far the bursts lie above what was climbed to. */
const gapWords = (gap: number) => (gap > 0 ? `${gap} apart` : 'they have met');

/** What a passage's repetitions tell of its tempos, which strategy suits, and what strategies would have asked for. */
export const TEMPO_WORDS = {
  'start-school': say({ bpm: number }, (values) => `Where its tempo plan stands: ${bpmWords(values.bpm)}.`),
  'propose-new': say({}, () => 'New to you: from half the goal upward.'),
  'propose-climb': say({}, () => 'There is room to climb.'),
  'propose-break': say(
    { days: number },
    (values) => `Not played for ${countWords(values.days, 'day', 'days')}: what you can do now is found out again.`,
  ),
  'propose-beyond': say(
    { best: number },
    (values) => `Clean at ${bpmWords(values.best)} already: past the goal and back makes it easy.`,
  ),
  'propose-near': say(
    { best: number, goal: number },
    (values) => `${bpmWords(values.best)} is near the goal of ${bpmWords(values.goal)}: small steps that are sure.`,
  ),
  'propose-stuck': say(
    { days: number, best: number },
    (values) =>
      `No gain beyond ${bpmWords(values.best)} on the last ${values.days} days: find where it breaks, and work under that.`,
  ),
  'curve-none': say(
    { count: number },
    (values) =>
      `Too little was played lately to tell: ${countWords(values.count, 'judged repetition', 'judged repetitions')} so far.`,
  ),
  'curve-easy': say(
    { easy: number, easyLow: number, easyHigh: number },
    (values) => `Easy, clean nine times in ten: ${range(values.easy, values.easyLow, values.easyHigh)}.`,
  ),
  'curve-edge': say(
    { edge: number, edgeLow: number, edgeHigh: number },
    (values) => `The edge, clean every other time: ${range(values.edge, values.edgeLow, values.edgeHigh)}.`,
  ),
  'curve-no-edge': say({}, () => 'The edge cannot be told yet: that takes more repetitions near it.'),
  'curve-no-easy': say({}, () => 'Slips keep it from being clean nine times in ten at any tempo that was played.'),
  'curve-goal': say({ percent: number, goal: number }, (values) => {
    const percent = values.percent;
    const share = percent >= 99 ? 'nearly always' : percent <= 1 ? 'hardly ever' : `about ${percent} times in 100`;
    return `At the goal of ${bpmWords(values.goal)} it would be clean ${share}.`;
  }),
  'curve-break': say(
    { break: number, breakLow: number, breakHigh: number },
    (values) => `In the last sweep it came apart at ${range(values.break, values.breakLow, values.breakHigh)}.`,
  ),
  'sides-one-day': say(
    { gap: number, structured: number, burst: number },
    (values) => `Climbed to ${bpmWords(values.structured)}, bursts at ${bpmWords(values.burst)}: ${gapWords(values.gap)}.`,
  ),
  sides: say({ gap: number, before: number, structured: number, burst: number }, (values) => {
    const [gap, before] = [values.gap, values.before];
    const then = gap === before ? 'as far as on the first day' : `on the first day it was ${before}`;
    return `Climbed to ${bpmWords(values.structured)}, bursts at ${bpmWords(values.burst)}: ${gapWords(gap)}; ${then}.`;
  }),
  'day-slow': say(
    { slow: number, fast: number, bpm: number },
    (values) =>
      `Today slow to fast: ${values.slow} to ${values.fast} repetitions; up to ${bpmWords(values.bpm)} is slow for you.`,
  ),
  'day-loose': say({ bpm: number }, (values) => `To finish, once more and loose: at ${bpmWords(values.bpm)}.`),
  'variants-differ': say({ percent: number, one: text, other: text, low: number, high: number, chance: number }, (values) => {
    const percent = values.percent;
    const size =
      percent === 0 ? 'about where it does' : `about ${Math.abs(percent)} % ${percent > 0 ? 'above' : 'below'} where it does`;
    return `With “${values.one}” the edge lies ${size} with “${values.other}” (between ${values.low} % and ${values.high} %); the chance that it is really the faster way is ${values.chance} in 100.`;
  }),
  'strategies-differ': say({ fastestPct: number, slowestPct: number, fastest: text, slowest: text }, (values) => {
    const fastest = against(values.fastestPct);
    const slowest = against(values.slowestPct);
    return `After the same repetitions ${values.fastest} would have asked for the fastest tempos, on average ${fastest}; ${values.slowest} for the slowest, ${slowest}.`;
  }),
} satisfies Dictionary;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'tempo', typeof TEMPO_WORDS> {}
}
