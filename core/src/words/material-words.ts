import { type CodesOf, countWords, type Sentence } from './reader';

const step: Sentence = (values) => `From note ${values.number('from')} to ${values.number('to')}`;

/** What is said of danger spots, and of drills for a spot. */
export const MATERIAL_WORDS = {
  'danger-same-finger': (values, reader) =>
    `${step(values, reader)} the same finger${values.text('mark') ? ` (${values.text('mark')})` : ''} moves to another note.`,
  'danger-same-hand': (values, reader) => `${step(values, reader)} the same hand strikes twice.`,
  'danger-string-skipped': (values, reader) => `${step(values, reader)} a string is left out.`,
  'danger-jump': (values, reader) =>
    `${step(values, reader)} the hand jumps by ${countWords(values.number('semitones'), 'semitone', 'semitones')}.`,
  'danger-accent-up': (values) => `The accent on note ${values.number('to')} falls on an up-stroke.`,
  'danger-many-fingers': (values, reader) => `${step(values, reader)} many fingers change at once.`,
  'danger-repeated-pitch': (values) =>
    `Note ${values.number('to')} repeats the pitch before it, which hides hands or a tongue that are out of step.`,
  'danger-marked': (values) => `You marked note ${values.number('to')} as difficult.`,
  'sections-few': (values) =>
    `Play the whole ${countWords(values.number('needed'), 'time', 'times')}: what was measured then says which section takes the most time.`,
  'sections-even': (values) =>
    `No section was harder than the others in ${countWords(values.number('count'), 'repetition', 'repetitions')}, as far as they tell: time goes by length.`,
  'sections-hard': (values) =>
    `${values.text('name') || 'One section'} is the hardest so far: ${values.number('inside')} % of its notes were off, ${values.number('outside')} % elsewhere. Time goes by that.`,
  'spot-rhythms': (values) =>
    `Long and short around the step from note ${values.number('from')} to ${values.number('to')}: once it is quick, once it has time.`,
  'spot-add': (values) => `Note by note across the step from note ${values.number('from')} to ${values.number('to')}.`,
  'spot-accent': (values) => `The weight on note ${values.number('to')}, so that the step before it is heard.`,
} satisfies Record<string, Sentence>;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'material', typeof MATERIAL_WORDS> {}
}
