import type { Reason, Verdict } from '../schema/verdict';
import { CHECKS, type Judged } from './checks';

/** A check that fails by less than this share of its limit is close. */
const CLOSE_SHARE = 1 / 3;

/**
 * The verdict of a repetition: the first check that fails gives the reason. It is close only where nothing fails by a
 * third of its limit or more.
 */
export const judge = (judged: Judged): Verdict => {
  const failed = CHECKS.map((check) => ({ check, excess: check.excess(judged) })).filter(({ excess }) => excess > 1e-9);
  const first = failed[0];
  if (!first) return { outcome: 'clean', reason: 'none', sentence: 'Every note inside the window, and even.' };
  const { check } = first;
  const isClose = failed.every((one) => !one.check.hard && one.excess < CLOSE_SHARE);
  const outcome = check.outcome ?? (isClose ? 'close' : 'not-yet');
  return { outcome, reason: check.reason, sentence: check.sentence(judged) };
};

/** The verdict of a repetition that cannot be judged, and is not held against the player. */
export const notJudged = (reason: Extract<Reason, 'gap' | 'silence'>): Verdict => ({
  outcome: 'not-judged',
  reason,
  sentence:
    reason === 'gap'
      ? 'The sound broke off for a moment, so this repetition is not judged.'
      : 'No notes were heard. Check that the input in Setup is the right one and that it is not muted.',
});
