import { bpmWords, type CodesOf, countWords, type Sentence, type Values } from './reader';

const minutes = (count: number): string => countWords(count, 'minute', 'minutes');
const days = (count: number): string => countWords(count, 'day', 'days');

const signedBpm = (bpm: number): string => `${bpm < 0 ? '−' : '+'}${bpmWords(Math.abs(bpm))}`;
const changed = (values: Values, how: string): string =>
  `The best clean tempo ${how} by about ${bpmWords(Math.abs(values.number('bpm')))} (${signedBpm(values.number('low'))} to ${signedBpm(values.number('high'))}), from ${values.number('was')} to ${values.number('is')}.`;

/** Why a day is as it is: its length, its order, its blocks, what is due and what did not fit; and when a goal may be clean. */
export const DAY_WORDS = {
  'day-week': (values) => `${minutes(values.number('minutes'))}, as your week has it.`,
  'day-longer': (values) =>
    `${minutes(values.number('minutes'))} and ${values.number('more')} more, since yesterday was not played. The rest is let go.`,
  'day-moved': (values) => `A day of rest, but yesterday was not played: its ${minutes(values.number('minutes'))} moved here.`,
  'day-rest': () => 'Your week has this day free. If you feel like it, play a little.',
  'day-first-day': (values) =>
    `${minutes(values.number('minutes'))} to begin with. Your week has this day free; Setup changes that.`,
  'day-demo': (values) =>
    `${minutes(values.number('minutes'))}: the demo plans every day, though this one is a day of rest in its week.`,
  'day-own': (values) => `${minutes(values.number('minutes'))}, by your own choice.`,
  'day-capped': (values) =>
    `${minutes(values.number('minutes'))} are left free: nothing gets more than your ${minutes(values.number('cap'))} a day.`,
  'order-serial': () =>
    'One kind of work after the other, which is easiest to follow; teachers disagree, and mixing may keep better.',
  'order-blocked': () => 'All of one passage before the next: it comes quickest in the hour, and may last less.',
  'order-mixed': () => 'Passages take turns in short pieces: it feels harder in the hour, and may last longer.',
  budget: (values) =>
    `In the last seven days ${values.number('was')} % of the time was slow, of ${values.number('asked')} % that you ask for.`,
  'budget-new': (values) => `At least ${values.number('asked')} % of the time is to be slow; nothing is counted yet.`,
  'block-warm-up': (values) => `Far under the ${bpmWords(values.number('best'))} that was clean, to get hands and ears going.`,
  'block-musical': () => 'To end with: as music, and loose.',
  'block-edge': (values) =>
    `${bpmWords(values.number('best'))} was the fastest clean one last time; the goal is ${bpmWords(values.number('goal'))}.`,
  'block-new': (values) => `New: find where it stands on the way to ${bpmWords(values.number('goal'))}.`,
  'block-no-clean': (values) => `Nothing was clean last time, so it begins at ${bpmWords(values.number('bpm'))}.`,
  'block-keep': (values) => `The goal of ${bpmWords(values.number('goal'))} is clean: to keep it there.`,
  'block-method': (values) => {
    const ms = values.number('ms');
    return `The step from note ${values.number('note')} to the next was ${Math.abs(ms).toFixed(0)} ms too ${ms > 0 ? 'long' : 'short'}: in rhythms around it.`;
  },
  'block-slow': (values) =>
    values.number('slow') > 0
      ? `More at speed would leave less than ${values.number('slow')} % of the time slow.`
      : 'Slow work keeps what is fast.',
  'block-slow-more': () => 'There is time for it.',
  'block-own': () => 'Your own choice.',
  'due-only-fast': (values) =>
    `${values.number('fastPct')} % of its time in the last ${days(values.number('days'))} was at speed: slowly once more.`,
  'due-forgetting': (values) =>
    `Not looked at for ${days(values.number('days'))}; by what you forget about ${values.number('lostPct')} % of its tempo is gone.`,
  'due-kept': (values) =>
    `Kept for ${days(values.number('kept'))} before, so it comes back after ${days(values.number('interval'))}; it is ${days(values.number('days'))} now.`,
  'due-first': (values) =>
    `Looked at again after ${days(values.number('interval'))} at first; it is ${days(values.number('days'))} now.`,
  'left-out-minutes': (values) => `Does not fit into ${minutes(values.number('minutes'))}; it comes first the next time.`,
  'left-out-cap': (values) => `Has had your ${minutes(values.number('cap'))} for today.`,
  'changed-up': (values) => changed(values, 'rose'),
  'changed-down': (values) => changed(values, 'fell'),
  'changed-none': (values) =>
    `The best clean tempo was about ${values.number('was')} and is about ${values.number('is')}; that may be chance (${signedBpm(values.number('low'))} to ${signedBpm(values.number('high'))}).`,
  'changed-too-few': (values) =>
    `Too little to tell: at least ${values.number('needed')} days with a clean tempo are needed before each, and there are ${values.number('before')} and ${values.number('after')}.`,
  'goal-was-clean': () => 'The goal was clean already.',
  'goal-too-few': (values) =>
    `It cannot be known yet: a clean tempo on ${values.number('needed')} days over two weeks is needed, and there are ${values.number('days')}.`,
  'goal-not-in-sight': (values) =>
    `It cannot be known: by the weeks so far it is not within ${values.number('months')} months. A plateau may end, though.`,
  'goal-not-before': (values) => `From ${days(values.number('days'))} with a clean tempo; how late it may be cannot be known.`,
  'goal-range': (values) =>
    `From ${days(values.number('days'))} with a clean tempo: in four of five such histories it lies between the two.`,
} satisfies Record<string, Sentence>;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'day', typeof DAY_WORDS> {}
}
