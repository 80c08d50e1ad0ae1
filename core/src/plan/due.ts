import type { PracticeDay } from '../schema/practice';
import { makeReason, type Reason } from '../schema/reason';
import { dayIndex } from '../time/day';
import { type Forgetting, lostAfter, type Opening } from './forgetting';

/** When a passage should come back. */
export interface Due {
  /** Days from today; 0 and less is due. */
  inDays: number;
  /** Days from the last time to the next. */
  intervalDays: number;
  why: Reason;
}

/** So much of a tempo may be lost before it comes back: about two notches of a metronome. */
const BEARABLE_LOSS = 0.05;
/** After the longest gap that was kept, the next may be so many times as long. */
const EXPANDS = 2;
const FIRST_DAYS = 2;
const LONGEST_DAYS = 60;
/** Fewer openings tell nothing of how fast one forgets. */
const MIN_OPENINGS = 6;
/** In these days, and when this much was played, one that was only played fast comes back slow. */
const DUE_LOOK_BACK_DAYS = 21;
const MIN_S = 300;
const MOSTLY_FAST = 0.8;

/** After how many days the bearable share is lost. */
export const bearableDays = ({ rate }: Pick<Forgetting, 'rate'>): number =>
  rate <= 0 ? LONGEST_DAYS : Math.min(LONGEST_DAYS, Math.exp(-Math.log(1 - BEARABLE_LOSS) / rate));

/** The longest gap after which a passage opened clean near its close; 0 where none did. */
const longestKept = (openings: readonly Opening[]): number =>
  openings.reduce(
    (most, { gapDays, clean, ratio }) => (clean && ratio >= 1 - 2 * BEARABLE_LOSS ? Math.max(most, gapDays) : most),
    0,
  );

/**
 * When a passage is due, from its own days (any order), its openings and its forgetting: in gaps that grow as long as it
 * comes back clean, never longer than it takes to lose 5 %; at once where it was played only fast for weeks. Null where it was never
 * played.
 */
export const dueOf = (
  days: readonly PracticeDay[],
  openings: readonly Opening[],
  forgetting: Forgetting,
  today: string,
): Due | null => {
  const last = days.reduce((latest, { day }) => (day > latest ? day : latest), '');
  if (last === '') return null;
  const goneDays = dayIndex(today) - dayIndex(last);
  const recent = days.filter(({ day }) => dayIndex(today) - dayIndex(day) <= DUE_LOOK_BACK_DAYS);
  const [playedS, fastS] = [recent.reduce((sum, one) => sum + one.playedS, 0), recent.reduce((sum, one) => sum + one.fastS, 0)];
  if (playedS >= MIN_S && fastS > MOSTLY_FAST * playedS)
    return {
      inDays: goneDays > 0 ? 0 : 1,
      intervalDays: 1,
      why: makeReason('due-only-fast', { fastPct: Math.round((100 * fastS) / playedS), days: DUE_LOOK_BACK_DAYS }),
    };
  const kept = longestKept(openings);
  const expanding = Math.max(FIRST_DAYS, EXPANDS * kept);
  const bearable = bearableDays(forgetting);
  const isKnown = forgetting.count >= MIN_OPENINGS;
  const intervalDays = Math.max(1, Math.round(Math.min(LONGEST_DAYS, isKnown ? Math.min(expanding, bearable) : expanding)));
  const inDays = intervalDays - goneDays;
  const values = { days: goneDays, interval: intervalDays };
  if (isKnown && bearable <= expanding)
    return {
      inDays,
      intervalDays,
      why: makeReason('due-forgetting', { ...values, lostPct: Math.round(100 * lostAfter(forgetting, Math.max(1, goneDays))) }),
    };
  return {
    inDays,
    intervalDays,
    why: kept > 0 ? makeReason('due-kept', { ...values, kept }) : makeReason('due-first', values),
  };
};
