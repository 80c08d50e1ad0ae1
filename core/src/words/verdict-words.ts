import { type CodesOf, countWords, type Dictionary, maybe, number, say } from './reader';

const ms = (value: number) => `${value.toFixed(1)} ms`;

/** A value and its limit with as many decimals as tell them apart, one at least: "7.5; up to 7.5" would contradict itself. */
const apart = (value: number, limit: number): [string, string] => {
  for (let digits = 1; digits < 4; digits += 1)
    if (value.toFixed(digits) !== limit.toFixed(digits)) return [value.toFixed(digits), limit.toFixed(digits)];
  return [value.toFixed(1), limit.toFixed(1)];
};

/** How many times what is allowed: more than once, however little. */
const overLimit = (times: number) => (times < 1.05 ? 'a little more than' : `${times.toFixed(1)} times`);

/** Said after a failure that so few notes may owe to chance. */
const doubt = (few: number | null) => (few === null ? '' : ` ${few} notes are too few to be sure.`);

/** What a verdict rests on, by the check that gave the reason. */
export const VERDICT_WORDS = {
  none: say({ few: maybe, of: maybe, inside: maybe }, (values) => {
    const few = values.few;
    const of = values.of;
    const inside = of === null || values.inside === of ? 'Every note' : `${values.inside} of ${of} notes`;
    return few === null
      ? `${inside} inside the window, and even.`
      : `${inside} inside the window, as far as ${countWords(few, 'note', 'notes')} can say.`;
  }),
  few: say(
    {},
    () => 'One or two notes have no rhythm of their own: measure the delay of your sound in Setup, and they can be placed.',
  ),
  gap: say({}, () => 'The sound broke off for a moment, so this repetition is not judged.'),
  silence: say({}, () => 'No notes were heard. Check that the input in Setup is the right one and that it is not muted.'),
  bleed: say(
    {},
    () =>
      'The click sounds as loud as your notes and could not be taken out, so this is not judged. Wear headphones for the click.',
  ),
  unsure: say(
    { unsure: number, of: number },
    (values) =>
      `${values.unsure} of ${values.of} notes could not be heard for certain, so this is not judged. Bring the microphone nearer, play where it rings less, or play a little louder; MIDI has no such doubts.`,
  ),
  'half-tempo': say({}, () => 'You played at half the tempo of the click.'),
  'double-tempo': say({}, () => 'You played at double the tempo of the click.'),
  'first-bar': say({}, () => 'The first bar stayed silent: you came in at the second.'),
  'played-on': say({}, () => 'You were still playing while it was counted in.'),
  stumble: say({ note: maybe }, ({ note }) => `A stumble${note === null ? '' : ` at note ${note}`}, and the rest a step late.`),
  'broken-off': say(
    { note: number, of: number, bar: number },
    ({ note, of, bar }) =>
      `You held on for ${countWords(note, 'note', 'notes')} of ${of}; it broke off in ${bar === 1 ? 'the first bar' : `bar ${bar} of it`}.`,
  ),
  'by-hand': say(
    { note: number, of: number },
    ({ note, of }) => `You ended it after ${countWords(note, 'note', 'notes')} of ${of}: kept, and not judged.`,
  ),
  stop: say({}, () => 'The playing stopped on the way.'),
  broken: say(
    { count: number, of: number },
    (values) => `${countWords(values.count, 'note', 'notes')} of ${values.of} missed or added.`,
  ),
  notes: say({ missed: number, extra: number, wrong: number }, (values) =>
    [
      values.missed ? `${countWords(values.missed, 'note', 'notes')} missed` : '',
      values.extra ? `${countWords(values.extra, 'note', 'notes')} too many` : '',
      values.wrong ? countWords(values.wrong, 'wrong note', 'wrong notes') : '',
    ]
      .filter(Boolean)
      .join(' and ')
      .concat('.'),
  ),
  accuracy: say({ of: maybe, asked: number, pct: number, inside: number, few: maybe }, (values) => {
    const of = values.of;
    const asked = values.asked;
    // What was stored before counts were.
    if (of === null)
      return `${Math.floor(values.pct)} % of the notes fell inside the window; ${asked} % are asked.${doubt(values.few)}`;
    return `${values.inside} of ${of} notes fell inside the window; ${Math.ceil((asked * of) / 100)} are asked.${doubt(values.few)}`;
  }),
  spread: say({ ms: number, limit: number, times: maybe, few: maybe }, (values) => {
    const { times } = values;
    if (times !== null)
      return `The notes are unsteady by ${overLimit(times)} what is allowed for their lengths.${doubt(values.few)}`;
    const [is, asked] = apart(values.ms, values.limit);
    return `The notes are unsteady by ${is} ms; up to ${asked} ms is asked.${doubt(values.few)}`;
  }),
  unevenness: say({ pct: number, limit: number, times: maybe, few: maybe }, (values) => {
    const { times } = values;
    if (times !== null) return `The steps differ by ${overLimit(times)} what is allowed for their lengths.${doubt(values.few)}`;
    const [is, asked] = apart(values.pct, values.limit);
    return `The steps differ by ${is} %; up to ${asked} % is asked.${doubt(values.few)}`;
  }),
  jump: say({ note: number, ms: number, few: maybe }, (values) => {
    const side = values.ms < 0 ? 'early' : 'late';
    return `From note ${values.note} on you were ${ms(Math.abs(values.ms))} ${side}, steady before and after.${doubt(values.few)}`;
  }),
  drift: say({ pct: number, ms: maybe, few: maybe }, (values) => {
    const pct = values.pct;
    const steady = values.ms;
    const apart = steady === null ? '' : ` Apart from that they are unsteady by ${ms(steady)}.`;
    return `The notes ${pct < 0 ? 'ran ahead of' : 'fell behind'} the beat by ${Math.abs(pct).toFixed(1)} % of the tempo.${apart}${doubt(values.few)}`;
  }),
  accents: say({ db: number, asked: number, few: maybe }, (values) => {
    const [is, asked] = apart(values.db, values.asked);
    return `The accents stand out by ${is} dB; ${asked} dB are asked.${doubt(values.few)}`;
  }),
  dynamics: say({ db: number, asked: number, few: maybe }, ({ db, asked, few }) => {
    const [is, least] = apart(Math.max(0, db), asked);
    return `Loud and soft lie ${is} dB apart; ${least} dB are asked.${doubt(few)}`;
  }),
  'let-go': say(
    { count: number },
    ({ count }) => `${countWords(count, 'held note was', 'held notes were')} let go before the others were done.`,
  ),
  articulation: say({ pct: number, most: maybe, least: maybe, few: maybe }, ({ pct, most, least, few }) => {
    const [is, limit] = apart(pct, most ?? least ?? 0);
    const asked = most === null ? `at least ${limit} %` : `at most ${limit} %`;
    return `The notes sound for ${is} % of their step; ${asked} is asked.${doubt(few)}`;
  }),
  together: say({ ms: number, limit: number, few: maybe }, (values) => {
    const [is, asked] = apart(values.ms, values.limit);
    return `Notes struck together come ${is} ms apart; up to ${asked} ms is asked.${doubt(values.few)}`;
  }),
  hands: say({ ms: number, few: maybe }, ({ ms: by, few }) => {
    const [late, early] = by < 0 ? ['left', 'right'] : ['right', 'left'];
    return `The ${late} hand comes ${ms(Math.abs(by))} after the ${early}.${doubt(few)}`;
  }),
  placement: say({ ms: number, few: maybe }, (values) => {
    const value = values.ms;
    return `The playing lies ${ms(Math.abs(value))} ${value < 0 ? 'ahead of' : 'behind'} the beat.${doubt(values.few)}`;
  }),
} satisfies Dictionary;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'verdict', typeof VERDICT_WORDS> {}
}
