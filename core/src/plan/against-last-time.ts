import { makeReason, type Reason } from '../schema/reason';
import type { Take, TakeListItem } from '../schema/take';
import type { Tolerance } from '../schema/tolerance';
import { practiceModeOf } from './practice-config';

const isAsStrict = (one: Tolerance, other: Tolerance): boolean =>
  (Object.keys(one) as (keyof Tolerance)[]).every((key) => key === 'preset' || one[key] === other[key]);

/** What was typed or read from elsewhere was not judged here. */
const isPlayedHere = ({ input }: TakeListItem): boolean => input !== 'log' && input !== 'file';

/**
 * The newest take before one that was of the same notes, judged as strictly, with or without click as it was: the last time.
 *
 * @param earlier takes in any order
 * @returns null where there is none
 */
export const lastTimeOf = (take: Take, earlier: readonly TakeListItem[]): TakeListItem | null =>
  earlier
    .filter(
      (one) =>
        one.id !== take.id &&
        one.startedAt < take.startedAt &&
        one.passageId === take.passageId &&
        one.variantId === take.variantId &&
        one.sectionId === take.sectionId &&
        one.practiceMode === practiceModeOf(take) &&
        one.withoutClick === take.withoutClick &&
        isPlayedHere(one) &&
        isAsStrict(one.tolerance, take.tolerance) &&
        one.summary !== null,
    )
    .reduce<TakeListItem | null>((newest, one) => (newest && newest.startedAt >= one.startedAt ? newest : one), null);

/** As a tempo is said: what is told of two of them must follow from what is read. */
const tenths = (bpm: number): number => Math.round(bpm * 10);

/**
 * What a take came to against the last time, in one sentence.
 *
 * @param bestBpm its fastest clean tempo; null where nothing was clean
 * @param beforeBpm that of the last time; null where nothing was clean then, undefined where there was none
 */
export const takeReason = (bestBpm: number | null, beforeBpm: number | null | undefined): Reason => {
  if (bestBpm === null) return beforeBpm == null ? makeReason('take-none') : makeReason('take-none-after-clean', { beforeBpm });
  if (beforeBpm === undefined) return makeReason('take-clean', { bpm: bestBpm });
  if (beforeBpm === null) return makeReason('take-clean-after-none', { bpm: bestBpm });
  const by = tenths(bestBpm) - tenths(beforeBpm);
  if (by === 0) return makeReason('take-as-fast', { bpm: bestBpm });
  return by > 0
    ? makeReason('take-faster', { bpm: bestBpm, byBpm: by / 10 })
    : makeReason('take-slower', { bpm: bestBpm, beforeBpm });
};
