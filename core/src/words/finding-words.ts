import { type CodesOf, capital, type Dictionary, maybe, number, say, text } from './reader';

const ms = (value: number) => `${Math.abs(value).toFixed(0)} ms`;

const range = (low: number | null, high: number | null): string => {
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
const named = (kind: string, label: string) => NAMES[kind]?.(label) ?? label;

const ORDINALS = ['', 'first', 'second', 'third', 'fourth', 'fifth', 'sixth'];

/** The one thing that repetitions say most clearly. */
export const FINDING_WORDS = {
  'finding-too-few': say(
    { count: number, needed: number },
    (values) => `Too few whole repetitions to find a pattern: ${values.count}, and ${values.needed} are needed.`,
  ),
  'finding-along': say(
    {},
    () =>
      'Played to beats that are unsteady themselves: what is the same every time may be the recording’s, so that no spot is named. Play it to the click for that.',
  ),
  'finding-step': say({ note: number, ms: number, sharePct: number, low: maybe, high: maybe }, (values) => {
    const note = values.note;
    const bias = values.ms;
    const lead = values.sharePct >= 50 ? 'Mostly one spot' : 'One spot stands out';
    return `${lead}: the step from note ${note} to note ${note + 1} is ${ms(bias)} too ${bias < 0 ? 'short' : 'long'} on average${range(values.low, values.high)}.`;
  }),
  'finding-label-timing': say({ ms: number, low: maybe, high: maybe, kind: text, first: text, second: text }, (values) => {
    const bias = values.ms;
    const second = values.second === '' ? 'the others' : named(values.kind, values.second);
    return `${capital(named(values.kind, values.first))} plays ${ms(bias)} ${bias < 0 ? 'earlier' : 'later'} than ${second}${range(values.low, values.high)}.`;
  }),
  'finding-place': say({ place: number, of: number, ms: number, low: maybe, high: maybe }, (values) => {
    const notes =
      values.of === 2 ? 'Every second note' : `Of every ${values.of} notes, the ${ORDINALS[values.place] ?? values.place}`;
    const side = values.ms < 0 ? 'earlier' : 'later';
    return `${notes} comes ${ms(values.ms)} ${side} than the others${range(values.low, values.high)}.`;
  }),
  'finding-breaks': say(
    { bar: number, breaks: number, reached: number },
    ({ bar, breaks, reached }) =>
      `It breaks in ${bar === 1 ? 'the first bar' : `bar ${bar} of it`}: in ${breaks} of the ${reached} repetitions that came so far.`,
  ),
  'finding-scatter': say(
    { note: number, ms: number, others: number },
    (values) =>
      `Note ${values.note} comes out different every time: it varies by ${ms(values.ms)}, the others by ${ms(values.others)}.`,
  ),
  'finding-label-level': say({ db: number, kind: text, first: text, second: text }, (values) => {
    const level = values.db;
    return `${capital(named(values.kind, values.first))} plays ${Math.abs(level).toFixed(1)} dB ${level < 0 ? 'softer' : 'louder'} than ${named(values.kind, values.second)}.`;
  }),
  'finding-awkward': say(
    { bpm: number, low: number, high: number, times: number },
    (values) =>
      `An awkward tempo: around ${values.bpm} (${values.low} to ${values.high}) it is ${values.times.toFixed(1)} times as uneven as just slower and just faster, on the way up and on the way down.`,
  ),
  'finding-habit': say(
    { sharePct: number },
    (values) =>
      `A habit: ${values.sharePct} % of the unsteadiness is the same at the same notes every time, spread over several of them.`,
  ),
  'habit-doubled': say(
    { note: number, count: number, of: number, size: number },
    (values) =>
      `Note ${values.note} spoke twice in ${values.count} of ${values.of} repetitions, about ${ms(values.size)} apart: two fingers or hands that are not quite together.`,
  ),
  'habit-ghosted': say(
    { note: number, count: number, of: number, size: number },
    (values) =>
      `Note ${values.note} hardly sounded in ${values.count} of ${values.of} repetitions: about ${values.size.toFixed(0)} dB under the others.`,
  ),
  'habit-died': say(
    { note: number, count: number, of: number, size: number },
    (values) =>
      `Note ${values.note} ended early in ${values.count} of ${values.of} repetitions: by the next note it had fallen ${values.size.toFixed(0)} dB farther than the others.`,
  ),
  'habit-overlapping': say(
    { note: number, count: number, of: number, size: number },
    (values) =>
      `Note ${values.note} was held over the next one in ${values.count} of ${values.of} repetitions, by about ${ms(values.size)}.`,
  ),
  'doubled-from': say({ bpm: number }, (values) => `From about ${values.bpm} on, notes began to speak twice.`),
  'distraction-none': say(
    { distracted: number, plain: number },
    (values) =>
      `With the task it was no less even than without, as far as can be told: ${values.distracted.toFixed(1)} % against ${values.plain.toFixed(1)} %.`,
  ),
  'distraction-cost': say(
    { distracted: number, plain: number },
    (values) => `The task cost evenness: ${values.distracted.toFixed(1)} % against ${values.plain.toFixed(1)} % without it.`,
  ),
  'distraction-gain': say(
    { distracted: number, plain: number },
    (values) =>
      `With the task it was more even than without: ${values.distracted.toFixed(1)} % against ${values.plain.toFixed(1)} %.`,
  ),
  'finding-control': say(
    { sharePct: number, ms: number },
    (values) =>
      `No spot stands out: ${values.sharePct} % of the unsteadiness differs from repetition to repetition (${values.ms.toFixed(1)} ms). That is control, not one place.`,
  ),
} satisfies Dictionary;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'finding', typeof FINDING_WORDS> {}
}
