import type { Reason, Verdict } from '../schema/verdict';
import { why } from '../schema/why';
import { CHECKS, type Judged } from './checks';

/** A check that fails by less than this share of its limit is close. */
const CLOSE_SHARE = 1 / 3;

/** With fewer notes than this, a clean repetition is said to rest on little. */
const FEW_NOTES = 6;

/**
 * The verdict of a repetition: the first check that fails gives the reason. It is close only where nothing fails by a
 * third of its limit or more, or where so few notes were played that the failure may be chance. Checks that are left out by
 * the drill do not count.
 */
export const judge = (judged: Judged, leftOut: readonly Reason[] = []): Verdict => {
  const failed = CHECKS.filter((check) => !leftOut.includes(check.reason))
    .map((check) => ({ check, excess: check.excess(judged) }))
    .filter(({ excess }) => excess > 1e-9);
  const first = failed[0];
  if (!first) {
    const few = judged.noteCount < FEW_NOTES;
    return { outcome: 'clean', reason: 'none', why: few ? why('none', { few: judged.noteCount }) : why('none') };
  }
  const { check } = first;
  const isNear = ({ check: one, excess }: (typeof failed)[number]) =>
    excess < CLOSE_SHARE || (one.mayBeChance?.(judged) ?? false);
  const isClose = failed.every((one) => !one.check.hard && isNear(one));
  const isDoubtful = isClose && first.excess >= CLOSE_SHARE;
  const values = check.values(judged);
  const outcome = check.outcome ?? (isClose ? 'close' : 'not-yet');
  return { outcome, reason: check.reason, why: why(check.reason, isDoubtful ? { ...values, few: judged.noteCount } : values) };
};

/** The verdict of a repetition that cannot be judged, and is not held against the player. */
export const notJudged = (reason: Extract<Reason, 'gap' | 'silence' | 'bleed'>): Verdict => ({
  outcome: 'not-judged',
  reason,
  why: why(reason),
});
