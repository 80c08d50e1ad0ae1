import { breakWhy, curveSentences } from '../curve/curve-sentences';
import type { TempoCurve } from '../curve/tempo-curve';
import { lastBreak } from '../curve/ways';
import { FINISH_DROP_BPM } from '../ladder/relaxed-finish';
import type { PassageTries } from '../schema/api';
import { type Why, why } from '../schema/why';
import { clampBpm } from '../time/clamp-tempo';

/** From this share of the goal on a repetition is a fast one. Common practice, no source. */
const FAST_SHARE = 0.9;

/**
 * What a day's practice of a passage comes to beside its best: where it is easy and where the edge is, how much of the day was slow,
 * and at which tempo to play it once more, loose. `today` is the day as YYYY-MM-DD.
 */
export const daySentences = (curve: TempoCurve | null, tries: PassageTries, goalBpm: number, today: string): Why[] => {
  const todays = tries.filter(({ startedAt }) => startedAt.startsWith(today));
  const played = todays.filter(({ way }) => way === null);
  const lastClean = played.findLast(({ outcome }) => outcome === 'clean');
  const fastBpm = Math.ceil(FAST_SHARE * goalBpm);
  const slow = played.filter(({ bpm }) => bpm < fastBpm).length;
  // The chance at the goal belongs to the page that draws the curve.
  const known = curve ? curveSentences(curve, tries.length, goalBpm).filter(({ code }) => code !== 'curve-goal') : [];
  const broke = lastBreak(todays);
  return [
    ...known,
    ...(broke ? [breakWhy(broke)] : []),
    ...(played.length > 0 ? [why('day-slow', { slow, fast: played.length - slow, bpm: fastBpm })] : []),
    ...(lastClean ? [why('day-loose', { bpm: clampBpm(Math.round(lastClean.bpm - FINISH_DROP_BPM)) })] : []),
  ];
};
