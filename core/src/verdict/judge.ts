import type { Measures, PlayedAs } from '../schema/measures';
import { makeReason, type ReasonValues, type ValuesArgument } from '../schema/reason';
import type { Verdict, VerdictReason } from '../schema/verdict';
import type { Check } from './check';
import { CHECKS, DRIFT, JUMP } from './checks';
import { type Judged, limitShare, steadyUsage } from './judged';

/** A check that fails by less than this share of its limit is close. */
const CLOSE_SHARE = 1 / 3;

/** With fewer notes than this, a clean repetition is said to rest on little. */
const FEW_NOTES = 6;

/** What a drag or a rush makes fail although the playing was steady. */
const OWED_TO_DRIFT: readonly VerdictReason[] = ['accuracy', 'spread', 'drift'];

/**
 * Whether what failed is a drag or a rush and nothing else: the trend breaks its own limit and is clear of chance, and without it spread
 * and accuracy pass.
 */
const isDrift = (judged: Judged, failed: readonly { check: Check }[]): boolean => {
  const { measures, tolerance } = judged;
  const { driftRangePct: range, driftPct, steadyAccuracyPct } = measures;
  if (failed.length === 0 || !range || range.low * range.high <= 0 || Math.abs(driftPct ?? 0) <= tolerance.driftPct)
    return false;
  const isSteady = steadyUsage(judged) <= 1 && (steadyAccuracyPct ?? 0) >= tolerance.accuracyPct;
  return isSteady && failed.every(({ check }) => OWED_TO_DRIFT.includes(check.reason));
};

/** Whether what failed is that the notes moved at once, and nothing else. */
const isJump = (judged: Judged, failed: readonly { check: Check }[]): boolean => {
  const { measures, tolerance } = judged;
  const { jump } = measures;
  if (failed.length === 0 || !jump || jump.spreadShare > limitShare(judged) || jump.accuracyPct < tolerance.accuracyPct)
    return false;
  return failed.every(({ check }) => OWED_TO_DRIFT.includes(check.reason));
};

/** What the checks that failed have in common, where they have: it gives the reason in their place. */
const causeOf = (judged: Judged, failed: readonly { check: Check }[]): Check | null => {
  if (isJump(judged, failed)) return JUMP;
  return isDrift(judged, failed) ? DRIFT : null;
};

/**
 * The verdict of a repetition: the first check that fails gives the reason. It is close only where nothing fails by a
 * third of its limit or more, or where so few notes were played that the failure may be chance. Checks that are left out by
 * the drill do not count.
 */
export const judge = (judged: Judged, leftOut: readonly VerdictReason[] = []): Verdict => {
  const failed = CHECKS.filter((check) => !leftOut.includes(check.reason))
    .map((check) => ({ check, excess: check.excess(judged) }))
    .filter(({ excess }) => excess > 1e-9);
  const cause = causeOf(judged, failed);
  const first = cause ? { check: cause, excess: failed[0]?.excess ?? 0 } : failed[0];
  if (!first) {
    const { noteCount: of, measures } = judged;
    const values = { inside: Math.round((measures.accuracyPct * of) / 100), of, ...(of < FEW_NOTES ? { few: of } : {}) };
    return { outcome: 'clean', reason: 'none', why: makeReason('none', values) };
  }
  const { check } = first;
  const isNear = ({ check: one, excess }: (typeof failed)[number]) =>
    excess < CLOSE_SHARE || (one.mayBeChance?.(judged) ?? false);
  const isClose = failed.every((one) => !one.check.hard && isNear(one));
  const isDoubtful = isClose && first.excess >= CLOSE_SHARE;
  const outcome = check.outcome ?? (isClose ? 'close' : 'not-yet');
  return {
    outcome,
    reason: check.reason,
    why: check.why(judged, isDoubtful ? { few: judged.noteCount } : {}),
  };
};

/** The verdict of a repetition that cannot be judged, and is not held against the player. */
export const notJudged = <
  Code extends Extract<
    VerdictReason,
    'gap' | 'silence' | 'bleed' | 'few' | 'unsure' | 'by-hand' | Exclude<PlayedAs['kind'], 'stumble'>
  >,
>(
  reason: Code,
  ...values: ValuesArgument<ReasonValues<Code>>
): Verdict => ({ outcome: 'not-judged', reason, why: makeReason(reason, ...values) });

/** So many doubtful notes are borne: this share of all, and at least this many. */
const BORNE_SHARE = 0.2;
const BORNE = 2;

/**
 * The verdict as {@link judge} gives it, but none where the ear was not sure of too many notes: what it heard wrongly only ever
 * makes playing look less even, so that a repetition that is clean all the same is.
 */
export const judgeSurely = (
  judged: Judged,
  { unsure = 0 }: Pick<Measures, 'unsure'>,
  leftOut: readonly VerdictReason[] = [],
): Verdict => {
  const verdict = judge(judged, leftOut);
  const isDoubtful = unsure > Math.max(BORNE, BORNE_SHARE * judged.noteCount);
  return isDoubtful && verdict.outcome !== 'clean' ? notJudged('unsure', { unsure, of: judged.noteCount }) : verdict;
};
