import type { Drill } from '../schema/grid';
import { makeReason, type Reason } from '../schema/reason';
import type { Repetition } from '../schema/take';
import { mean, sampleSd } from '../stats/summary';
import { welchDifference } from './label-differences';

/** Repetitions of each kind before anything is said. */
const MIN = 2;

/**
 * What a task for the mind cost in evenness: the unevenness of the repetitions with it against those without, in percentage points. Null
 * where there are too few of either. "None" is said where the 95 % interval of the difference reaches zero.
 */
export const distractionCost = (drills: readonly Drill[], repetitions: readonly Repetition[]): Reason | null => {
  const of = (isDistracted: boolean) =>
    repetitions
      .filter(
        ({ drill, verdict }) => (drills[drill]?.distraction ?? false) === isDistracted && verdict.outcome !== 'not-judged',
      )
      .flatMap(({ measures }) => measures.unevennessPct?.value ?? []);
  if (!drills.some(({ distraction }) => distraction)) return null;
  const [plain, distracted] = [of(false), of(true)];
  if (plain.length < MIN || distracted.length < MIN) return null;
  const difference = welchDifference(distracted, plain);
  const values = { plain: mean(plain), distracted: mean(distracted) };
  const isSure = difference.low !== null && (difference.low > 0 || (difference.high ?? 0) < 0);
  if (!isSure || sampleSd(plain) + sampleSd(distracted) === 0) return makeReason('distraction-none', values);
  return makeReason(difference.value > 0 ? 'distraction-cost' : 'distraction-gain', values);
};
