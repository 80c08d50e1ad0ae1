import { bpmWords, type CodesOf, countWords, type Dictionary, number, say, text } from './reader';

const minutes = (count: number): string => countWords(count, 'minute', 'minutes');
const days = (count: number): string => countWords(count, 'day', 'days');

const signedBpm = (bpm: number): string => `${bpm < 0 ? '−' : '+'}${bpmWords(Math.abs(bpm))}`;
const CHANGE = { bpm: number, low: number, high: number, was: number, is: number };
const changed = (values: Record<keyof typeof CHANGE, number>, how: string): string =>
  `The best clean tempo ${how} by about ${bpmWords(Math.abs(values.bpm))} (${signedBpm(values.low)} to ${signedBpm(values.high)}), from ${values.was} to ${values.is}.`;

/** Why a day is as it is: its length, its order, its blocks, what is due and what did not fit; and when a goal may be clean. */
export const DAY_WORDS = {
  'day-week': say({ minutes: number }, (values) => `${minutes(values.minutes)}, as your week has it.`),
  'day-longer': say(
    { minutes: number, more: number },
    (values) => `${minutes(values.minutes)} and ${values.more} more, since yesterday was not played. The rest is let go.`,
  ),
  'day-moved': say(
    { minutes: number },
    (values) => `A day of rest, but yesterday was not played: its ${minutes(values.minutes)} moved here.`,
  ),
  'day-after-pain': say(
    { minutes: number },
    ({ minutes }) =>
      `It hurt lately, so today is lighter: ${minutes} minutes, and nothing fast. Where it still hurts, rest, and see a doctor or physiotherapist who treats musicians.`,
  ),
  'day-rest': say({}, () => 'Your week has this day free. If you feel like it, play a little.'),
  'day-first-day': say(
    { minutes: number },
    (values) => `${minutes(values.minutes)} to begin with. Your week has this day free; Setup changes that.`,
  ),
  'day-demo': say(
    { minutes: number },
    (values) => `${minutes(values.minutes)}: the demo plans every day, though this one is a day of rest in its week.`,
  ),
  'day-own': say({ minutes: number }, (values) => `${minutes(values.minutes)}, by your own choice.`),
  'day-capped': say(
    { minutes: number, cap: number },
    (values) => `${minutes(values.minutes)} are left free: nothing gets more than your ${minutes(values.cap)} a day.`,
  ),
  'order-serial': say(
    {},
    () => 'One kind of work after the other, which is easiest to follow; teachers disagree, and mixing may keep better.',
  ),
  'order-blocked': say({}, () => 'All of one passage before the next: it comes quickest in the hour, and may last less.'),
  'order-mixed': say({}, () => 'Passages take turns in short pieces: it feels harder in the hour, and may last longer.'),
  budget: say(
    { was: number, asked: number },
    (values) => `In the last seven days ${values.was} % of the time was slow, of ${values.asked} % that you ask for.`,
  ),
  'budget-new': say(
    { asked: number },
    (values) => `At least ${values.asked} % of the time is to be slow; nothing is counted yet.`,
  ),
  'block-warm-up': say(
    { best: number },
    (values) => `Far under the ${bpmWords(values.best)} that was clean, to get hands and ears going.`,
  ),
  'block-musical': say({}, () => 'To end with: as music, and loose.'),
  'block-edge': say(
    { best: number, goal: number },
    (values) => `${bpmWords(values.best)} was the fastest clean one last time; the goal is ${bpmWords(values.goal)}.`,
  ),
  'block-new': say({ goal: number }, (values) => `New: find where it stands on the way to ${bpmWords(values.goal)}.`),
  'block-no-clean': say({ bpm: number }, (values) => `Nothing was clean last time, so it begins at ${bpmWords(values.bpm)}.`),
  'block-keep': say({ goal: number }, (values) => `The goal of ${bpmWords(values.goal)} is clean: to keep it there.`),
  'block-method': say({ ms: number, note: number }, (values) => {
    const ms = values.ms;
    return `The step from note ${values.note} to the next was ${Math.abs(ms).toFixed(0)} ms too ${ms > 0 ? 'long' : 'short'}: in rhythms around it.`;
  }),
  'block-section': say(
    { section: text, note: number },
    ({ section, note }) => `The step from note ${note} to the next lies in “${section}”: that by itself first.`,
  ),
  'block-slow': say({ slow: number }, (values) =>
    values.slow > 0
      ? `More at speed would leave less than ${values.slow} % of the time slow.`
      : 'Slow work keeps what is fast.',
  ),
  'block-light': say({}, () => 'Slowly and loosely: a light day.'),
  'block-slow-more': say({}, () => 'There is time for it.'),
  'block-own': say({}, () => 'Your own choice.'),
  'due-only-fast': say(
    { fastPct: number, days: number },
    (values) => `${values.fastPct} % of its time in the last ${days(values.days)} was at speed: slowly once more.`,
  ),
  'due-forgetting': say(
    { days: number, lostPct: number },
    (values) => `Not looked at for ${days(values.days)}; by what you forget about ${values.lostPct} % of its tempo is gone.`,
  ),
  'due-kept': say(
    { kept: number, interval: number, days: number },
    (values) =>
      `Kept for ${days(values.kept)} before, so it comes back after ${days(values.interval)}; it is ${days(values.days)} now.`,
  ),
  'due-first': say(
    { interval: number, days: number },
    (values) => `Looked at again after ${days(values.interval)} at first; it is ${days(values.days)} now.`,
  ),
  'left-out-minutes': say(
    { minutes: number },
    (values) => `Does not fit into ${minutes(values.minutes)}; it comes first the next time.`,
  ),
  'left-out-cap': say({ cap: number }, (values) => `Has had your ${minutes(values.cap)} for today.`),
  'changed-up': say(CHANGE, (values) => changed(values, 'rose')),
  'changed-down': say(CHANGE, (values) => changed(values, 'fell')),
  'changed-none': say(
    { was: number, is: number, low: number, high: number },
    (values) =>
      `The best clean tempo was about ${values.was} and is about ${values.is}; that may be chance (${signedBpm(values.low)} to ${signedBpm(values.high)}).`,
  ),
  'changed-too-few': say(
    { needed: number, before: number, after: number },
    (values) =>
      `Too little to tell: at least ${values.needed} days with a clean tempo are needed before each, and there are ${values.before} and ${values.after}.`,
  ),
  'goal-was-clean': say({}, () => 'The goal was clean already.'),
  'goal-too-few': say(
    { needed: number, days: number },
    (values) =>
      `It cannot be known yet: a clean tempo on ${values.needed} days over two weeks is needed, and there are ${values.days}.`,
  ),
  'goal-not-in-sight': say(
    { months: number },
    (values) => `It cannot be known: by the weeks so far it is not within ${values.months} months. A plateau may end, though.`,
  ),
  'goal-not-before': say(
    { days: number },
    (values) => `From ${days(values.days)} with a clean tempo; how late it may be cannot be known.`,
  ),
  'goal-range': say(
    { days: number },
    (values) => `From ${days(values.days)} with a clean tempo: in four of five such histories it lies between the two.`,
  ),
} satisfies Dictionary;

declare module '../schema/reason' {
  interface ReasonCatalogue extends CodesOf<'day', typeof DAY_WORDS> {}
}
