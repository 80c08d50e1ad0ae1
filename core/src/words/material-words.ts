import { type CodesOf, countWords, type Dictionary, number, say, text } from './reader';

const step = ({ from, to }: { from: number; to: number }) => `From note ${from} to ${to}`;

/** What is said of danger spots, and of drills for a spot. */
export const MATERIAL_WORDS = {
  'danger-same-finger': say(
    { mark: text, from: number, to: number },
    (values) => `${step(values)} the same finger${values.mark ? ` (${values.mark})` : ''} moves to another note.`,
  ),
  'danger-same-hand': say({ from: number, to: number }, (values) => `${step(values)} the same hand strikes twice.`),
  'danger-string-skipped': say({ from: number, to: number }, (values) => `${step(values)} a string is left out.`),
  'danger-jump': say(
    { semitones: number, from: number, to: number },
    (values) => `${step(values)} the hand jumps by ${countWords(values.semitones, 'semitone', 'semitones')}.`,
  ),
  'danger-shift': say(
    { semitones: number, from: number, to: number },
    (values) =>
      `${step(values)} the hand moves along the string by at least ${countWords(values.semitones, 'semitone', 'semitones')}.`,
  ),
  'danger-crossing': say(
    { to: number },
    (values) => `Note ${values.to} lies on another string than its neighbours: there and straight back.`,
  ),
  'danger-plucked-twice': say(
    { mark: text, from: number, to: number },
    (values) => `${step(values)} the same finger (${values.mark}) plucks twice.`,
  ),
  'danger-roll-changes': say({ to: number }, (values) => `With note ${values.to} the order of the plucking fingers changes.`),
  'danger-accent-up': say({ to: number }, (values) => `The accent on note ${values.to} falls on an up-stroke.`),
  'danger-many-fingers': say({ from: number, to: number }, (values) => `${step(values)} many fingers change at once.`),
  'danger-repeated-pitch': say(
    { to: number },
    (values) => `Note ${values.to} repeats the pitch before it, which hides hands or a tongue that are out of step.`,
  ),
  'danger-marked': say({ to: number }, (values) => `You marked note ${values.to} as difficult.`),
  'sections-few': say(
    { needed: number },
    (values) =>
      `Play the whole ${countWords(values.needed, 'time', 'times')}: what was measured then says which section takes the most time.`,
  ),
  'sections-even': say(
    { count: number },
    (values) =>
      `No section was harder than the others in ${countWords(values.count, 'repetition', 'repetitions')}, as far as they tell: time goes by length.`,
  ),
  'sections-hard': say(
    { name: text, inside: number, outside: number },
    (values) =>
      `${values.name || 'One section'} is the hardest so far: ${values.inside} % of its notes were off, ${values.outside} % elsewhere. Time goes by that.`,
  ),
  'spot-rhythms': say(
    { from: number, to: number },
    (values) => `Long and short around the step from note ${values.from} to ${values.to}: once it is quick, once it has time.`,
  ),
  'spot-add': say(
    { from: number, to: number },
    (values) => `Note by note across the step from note ${values.from} to ${values.to}.`,
  ),
  'spot-accent': say({ to: number }, (values) => `The weight on note ${values.to}, so that the step before it is heard.`),
} satisfies Dictionary;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'material', typeof MATERIAL_WORDS> {}
}
