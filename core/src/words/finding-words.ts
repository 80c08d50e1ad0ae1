import { type CodesOf, capital, type Sentence, type Values } from './reader';

const ms = (value: number) => `${Math.abs(value).toFixed(0)} ms`;

const range = (values: Values): string => {
  const low = values.maybe('low');
  const high = values.maybe('high');
  if (low === null || high === null) return '';
  const [near, far] = [Math.abs(low), Math.abs(high)].sort((a, b) => a - b) as [number, number];
  return ` (${near.toFixed(0)} to ${far.toFixed(0)} ms)`;
};

/** A label as it is spoken of; a kind that is not here is said by its label alone. */
const NAMES: Record<string, (label: string) => string> = {
  hand: (label) => `the ${label} hand`,
  finger: (label) => `finger ${label}`,
  stick: (label) => `stick ${label}`,
  stroke: (label) => `the ${label}-stroke`,
  string: (label) => `string ${label}`,
  sign: (label) => `“${label}”`,
  role: (label) => `the ${label}`,
};
const named = (values: Values, which: string) => (NAMES[values.text('kind')] ?? ((label: string) => label))(values.text(which));

/** The one thing that repetitions say most clearly. */
export const FINDING_WORDS = {
  'finding-too-few': (values) =>
    `Too few whole repetitions to find a pattern: ${values.number('count')}, and ${values.number('needed')} are needed.`,
  'finding-along': () =>
    'Played to beats that are unsteady themselves: what is the same every time may be the recording’s, so that no spot is named. Play it to the click for that.',
  'finding-step': (values) => {
    const note = values.number('note');
    const bias = values.number('ms');
    const lead = values.number('sharePct') >= 50 ? 'Mostly one spot' : 'One spot stands out';
    return `${lead}: the step from note ${note} to note ${note + 1} is ${ms(bias)} too ${bias < 0 ? 'short' : 'long'} on average${range(values)}.`;
  },
  'finding-label-timing': (values) => {
    const bias = values.number('ms');
    return `${capital(named(values, 'first'))} plays ${ms(bias)} ${bias < 0 ? 'earlier' : 'later'} than ${named(values, 'second')}${range(values)}.`;
  },
  'finding-label-level': (values) => {
    const level = values.number('db');
    return `${capital(named(values, 'first'))} plays ${Math.abs(level).toFixed(1)} dB ${level < 0 ? 'softer' : 'louder'} than ${named(values, 'second')}.`;
  },
  'finding-awkward': (values) =>
    `An awkward tempo: around ${values.number('bpm')} (${values.number('low')} to ${values.number('high')}) it is ${values.number('times').toFixed(1)} times as uneven as just slower and just faster, on the way up and on the way down.`,
  'finding-habit': (values) =>
    `A habit: ${values.number('sharePct')} % of the unsteadiness is the same at the same notes every time, spread over several of them.`,
  'habit-doubled': (values) =>
    `Note ${values.number('note')} spoke twice in ${values.number('count')} of ${values.number('of')} repetitions, about ${ms(values.number('size'))} apart: two fingers or hands that are not quite together.`,
  'habit-ghosted': (values) =>
    `Note ${values.number('note')} hardly sounded in ${values.number('count')} of ${values.number('of')} repetitions: about ${values.number('size').toFixed(0)} dB under the others.`,
  'habit-died': (values) =>
    `Note ${values.number('note')} ended early in ${values.number('count')} of ${values.number('of')} repetitions: by the next note it had fallen ${values.number('size').toFixed(0)} dB farther than the others.`,
  'habit-overlapping': (values) =>
    `Note ${values.number('note')} was held over the next one in ${values.number('count')} of ${values.number('of')} repetitions, by about ${ms(values.number('size'))}.`,
  'doubled-from': (values) => `From about ${values.number('bpm')} on, notes began to speak twice.`,
  'distraction-none': (values) =>
    `With the task it was no less even than without, as far as can be told: ${values.number('distracted').toFixed(1)} % against ${values.number('plain').toFixed(1)} %.`,
  'distraction-cost': (values) =>
    `The task cost evenness: ${values.number('distracted').toFixed(1)} % against ${values.number('plain').toFixed(1)} % without it.`,
  'distraction-gain': (values) =>
    `With the task it was more even than without: ${values.number('distracted').toFixed(1)} % against ${values.number('plain').toFixed(1)} %.`,
  'finding-control': (values) =>
    `No spot stands out: ${values.number('sharePct')} % of the unsteadiness differs from repetition to repetition (${values.number('ms').toFixed(1)} ms). That is control, not one place.`,
} satisfies Record<string, Sentence>;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'finding', typeof FINDING_WORDS> {}
}
