import { bpmWords, type CodesOf, countWords, type Sentence, type Values } from './reader';

const bpm = (values: Values, name = 'bpm') => bpmWords(values.number(name));
const range = (values: Values, name: string) =>
  `about ${bpm(values, name)} (${bpm(values, `${name}Low`)} to ${bpm(values, `${name}High`)})`;
const against = (percent: number) =>
  percent === 0
    ? 'about what you played next'
    : `${Math.abs(percent)} % ${percent > 0 ? 'above' : 'below'} what you played next`;

/** How far the bursts lie above what was climbed to. */
const gapWords = (gap: number) => (gap > 0 ? `${gap} apart` : 'they have met');

/** What a passage's repetitions tell of its tempos, which school suits, and what schools would have asked for. */
export const TEMPO_WORDS = {
  'start-school': (values) => `Where its tempo plan stands: ${bpm(values)}.`,
  'propose-new': () => 'New to you: from half the goal upward.',
  'propose-climb': () => 'There is room to climb.',
  'propose-break': (values) =>
    `Not played for ${countWords(values.number('days'), 'day', 'days')}: what you can do now is found out again.`,
  'propose-beyond': (values) => `Clean at ${bpm(values, 'best')} already: past the goal and back makes it easy.`,
  'propose-near': (values) => `${bpm(values, 'best')} is near the goal of ${bpm(values, 'goal')}: small steps that are sure.`,
  'propose-stuck': (values) =>
    `No gain beyond ${bpm(values, 'best')} on the last ${values.number('days')} days: find where it breaks, and work under that.`,
  'curve-none': (values) =>
    `Too little was played lately to tell: ${countWords(values.number('count'), 'judged repetition', 'judged repetitions')} so far.`,
  'curve-easy': (values) => `Easy, clean nine times in ten: ${range(values, 'easy')}.`,
  'curve-edge': (values) => `The edge, clean every other time: ${range(values, 'edge')}.`,
  'curve-no-edge': () => 'It never got hard enough to tell where the edge is.',
  'curve-no-easy': () => 'Slips keep it from being clean nine times in ten at any tempo that was played.',
  'curve-goal': (values) => {
    const percent = values.number('percent');
    const share = percent >= 99 ? 'nearly always' : percent <= 1 ? 'hardly ever' : `about ${percent} times in 100`;
    return `At the goal of ${bpm(values, 'goal')} it would be clean ${share}.`;
  },
  'curve-break': (values) => `In the last sweep it came apart at ${range(values, 'break')}.`,
  'sides-one-day': (values) =>
    `Climbed to ${bpm(values, 'structured')}, bursts at ${bpm(values, 'burst')}: ${gapWords(values.number('gap'))}.`,
  sides: (values) => {
    const [gap, before] = [values.number('gap'), values.number('before')];
    const then = gap === before ? 'as far as on the first day' : `on the first day it was ${before}`;
    return `Climbed to ${bpm(values, 'structured')}, bursts at ${bpm(values, 'burst')}: ${gapWords(gap)}; ${then}.`;
  },
  'day-slow': (values) =>
    `Today slow to fast: ${values.number('slow')} to ${values.number('fast')} repetitions; fast is from ${bpm(values)} up.`,
  'day-loose': (values) => `To finish, once more and loose: at ${bpm(values)}.`,
  'variants-differ': (values) => {
    const percent = values.number('percent');
    const size =
      percent === 0 ? 'about where it does' : `about ${Math.abs(percent)} % ${percent > 0 ? 'above' : 'below'} where it does`;
    return `With “${values.text('one')}” the edge lies ${size} with “${values.text('other')}” (between ${values.number('low')} % and ${values.number('high')} %); the chance that it is really the faster way is ${values.number('chance')} in 100.`;
  },
  'schools-differ': (values) => {
    const fastest = against(values.number('fastestPct'));
    const slowest = against(values.number('slowestPct'));
    return `After the same repetitions ${values.text('fastest')} would have asked for the fastest tempos, on average ${fastest}; ${values.text('slowest')} for the slowest, ${slowest}.`;
  },
} satisfies Record<string, Sentence>;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'tempo', typeof TEMPO_WORDS> {}
}
