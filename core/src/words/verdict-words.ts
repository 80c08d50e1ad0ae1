import { type CodesOf, countWords, type Sentence, type Values } from './reader';

const ms = (value: number) => `${value.toFixed(1)} ms`;

/** A value and its limit with as many decimals as tell them apart, one at least: "7.5; up to 7.5" would contradict itself. */
const apart = (value: number, limit: number): [string, string] => {
  for (let digits = 1; digits < 4; digits += 1)
    if (value.toFixed(digits) !== limit.toFixed(digits)) return [value.toFixed(digits), limit.toFixed(digits)];
  return [value.toFixed(1), limit.toFixed(1)];
};

/** Said after a failure that so few notes may owe to chance. */
const doubt = (values: Values) => {
  const few = values.maybe('few');
  return few === null ? '' : ` ${few} notes are too few to be sure.`;
};

const doubtful =
  (sentence: (values: Values) => string): Sentence =>
  (values) =>
    `${sentence(values)}${doubt(values)}`;

/** What a verdict rests on, by the check that gave the reason. */
export const VERDICT_WORDS = {
  none: (values) => {
    const few = values.maybe('few');
    const of = values.maybe('of');
    const inside = of === null || values.number('inside') === of ? 'Every note' : `${values.number('inside')} of ${of} notes`;
    return few === null
      ? `${inside} inside the window, and even.`
      : `${inside} inside the window, as far as ${countWords(few, 'note', 'notes')} can say.`;
  },
  few: () => 'One or two notes have no rhythm of their own: measure the delay of your sound in Setup, and they can be placed.',
  gap: () => 'The sound broke off for a moment, so this repetition is not judged.',
  silence: () => 'No notes were heard. Check that the input in Setup is the right one and that it is not muted.',
  bleed: () =>
    'The click sounds as loud as your notes and could not be taken out, so this is not judged. Wear headphones for the click.',
  unsure: (values) =>
    `${values.number('unsure')} of ${values.number('of')} notes could not be heard for certain, so this is not judged. Bring the microphone nearer, play where it rings less, or play a little louder; MIDI has no such doubts.`,
  stop: () => 'The playing stopped on the way.',
  broken: (values) => `${countWords(values.number('count'), 'note', 'notes')} of ${values.number('of')} missed or added.`,
  notes: (values) =>
    [
      values.number('missed') ? `${countWords(values.number('missed'), 'note', 'notes')} missed` : '',
      values.number('extra') ? `${countWords(values.number('extra'), 'note', 'notes')} too many` : '',
      values.number('wrong') ? countWords(values.number('wrong'), 'wrong note', 'wrong notes') : '',
    ]
      .filter(Boolean)
      .join(' and ')
      .concat('.'),
  accuracy: doubtful((values) => {
    const of = values.maybe('of');
    const asked = values.number('asked');
    // What was stored before counts were.
    if (of === null) return `${Math.floor(values.number('pct'))} % of the notes fell inside the window; ${asked} % are asked.`;
    return `${values.number('inside')} of ${of} notes fell inside the window; ${Math.ceil((asked * of) / 100)} are asked.`;
  }),
  spread: doubtful((values) => {
    const [is, asked] = apart(values.number('ms'), values.number('limit'));
    return `The notes are unsteady by ${is} ms; up to ${asked} ms is asked.`;
  }),
  unevenness: doubtful((values) => {
    const [is, asked] = apart(values.number('pct'), values.number('limit'));
    return `The steps differ by ${is} %; up to ${asked} % is asked.`;
  }),
  drift: doubtful((values) => {
    const pct = values.number('pct');
    const steady = values.maybe('ms');
    const apart = steady === null ? '' : ` Apart from that they are unsteady by ${ms(steady)}.`;
    return `The notes ${pct < 0 ? 'ran ahead of' : 'fell behind'} the beat by ${Math.abs(pct).toFixed(1)} % of the tempo.${apart}`;
  }),
  accents: doubtful((values) => {
    const [is, asked] = apart(values.number('db'), values.number('asked'));
    return `The accents stand out by ${is} dB; ${asked} dB are asked.`;
  }),
  placement: doubtful((values) => {
    const value = values.number('ms');
    return `The playing lies ${ms(Math.abs(value))} ${value < 0 ? 'ahead of' : 'behind'} the beat.`;
  }),
} satisfies Record<string, Sentence>;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'verdict', typeof VERDICT_WORDS> {}
}
