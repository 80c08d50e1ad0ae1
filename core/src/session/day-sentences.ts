import { lastBreak } from '../curve/both-sides';
import { breakReason, curveSentences } from '../curve/curve-sentences';
import type { TempoCurve } from '../curve/tempo-curve';
import { slowUpToBpm } from '../plan/pace';
import type { PassageRepetitions } from '../schema/api';
import { makeReason, type Reason } from '../schema/reason';
import { FINISH_DROP_BPM } from '../strategies/relaxed-finish';
import { clampBpm } from '../time/clamp-tempo';
import { localDay } from '../time/day';

/**
 * What a day's practice of a passage comes to beside its best: where it is easy and where the edge is, how much of the day was slow,
 * and at which tempo to play it once more, loose. `today` is the day as YYYY-MM-DD.
 */
export const daySentences = (
  curve: TempoCurve | null,
  repetitions: PassageRepetitions,
  goalBpm: number,
  today: string,
): Reason[] => {
  const todays = repetitions.filter(({ startedAt }) => localDay(new Date(startedAt)) === today);
  const played = todays.filter(({ repetitionKind }) => repetitionKind === null);
  const lastClean = played.findLast(({ outcome }) => outcome === 'clean');
  const slowBpm = Math.floor(slowUpToBpm(goalBpm, curve?.edge()?.bpm ?? null));
  const slow = played.filter(({ bpm }) => bpm <= slowBpm).length;
  // The chance at the goal belongs to the page that draws the curve.
  const known = curve ? curveSentences(curve, repetitions.length, goalBpm).filter(({ code }) => code !== 'curve-goal') : [];
  const broke = lastBreak(todays);
  return [
    ...known,
    ...(broke ? [breakReason(broke)] : []),
    ...(played.length > 0 ? [makeReason('day-slow', { slow, fast: played.length - slow, bpm: slowBpm })] : []),
    ...(lastClean ? [makeReason('day-loose', { bpm: clampBpm(Math.round(lastClean.bpm - FINISH_DROP_BPM)) })] : []),
  ];
};
