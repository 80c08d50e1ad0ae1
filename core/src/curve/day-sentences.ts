import { FINISH_DROP_BPM } from '../ladder/relaxed-finish';
import type { PassageTries } from '../schema/api';
import { type Why, why } from '../schema/why';
import { clampBpm } from '../time/clamp-tempo';
import { breakWhy, curveSentences } from './curve-sentences';
import type { TempoCurve } from './tempo-curve';
import { lastBreak } from './ways';

/**
 * What a day's practice of a passage comes to beside its best: where it is easy and where the edge is, how much of the day was slow,
 * and at which tempo to play it once more, loose. `today` is the day as YYYY-MM-DD.
 */
export const daySentences = (curve: TempoCurve | null, tries: PassageTries, goalBpm: number, today: string): Why[] => {
  const easy = curve?.easy() ?? null;
  const played = tries.filter(({ startedAt, way }) => startedAt.startsWith(today) && way === null);
  const lastClean = played.findLast(({ outcome }) => outcome === 'clean');
  const slow = easy ? played.filter(({ bpm }) => bpm <= easy.bpm).length : 0;
  // The chance at the goal belongs to the page that draws the curve.
  const known = curve ? curveSentences(curve, tries.length, goalBpm).filter(({ code }) => code !== 'curve-goal') : [];
  const broke = lastBreak(tries.filter(({ startedAt }) => startedAt.startsWith(today)));
  return [
    ...known,
    ...(broke ? [breakWhy(broke)] : []),
    ...(easy && played.length > 0 ? [why('day-slow', { slow, of: played.length })] : []),
    ...(lastClean ? [why('day-loose', { bpm: clampBpm(Math.round(lastClean.bpm - FINISH_DROP_BPM)) })] : []),
  ];
};
