import type { Reason } from '../schema/reason';
import type { VerdictReason } from '../schema/verdict';
import type { Judged } from './judged';

/**
 * One check of the verdict. `excess` is how far over its limit the measure is, as a share of the limit: 0 or less
 * passes, up to a third is close.
 */
export interface Check {
  reason: VerdictReason;
  /** A miss here is never merely close. */
  hard: boolean;
  outcome?: 'broken' | 'not-yet';
  excess: (judged: Judged) => number;
  /** The reason with the numbers that it is told with, and with how few notes there were where the failure may owe to chance. */
  why: (judged: Judged, few: { few?: number }) => Reason;
  /** Whether chance alone could explain the failure: the figure's 95 % interval still reaches its limit. */
  mayBeChance?: (judged: Judged) => boolean;
}

/** What has no size is failed or passed. */
export const FAIL = 1;
export const PASS = 0;
