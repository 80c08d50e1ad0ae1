import type { Practice, WeakSpot } from '../schema/practice';
import { type PracticeConfigKey, practiceConfigId } from '../schema/practice-config';
import { mean } from '../stats/summary';

/** In one take a step may stand out by chance. */
const MIN_TAKES = 2;

/** The step that stood out in the most takes. */
export interface OftenWeak {
  config: PracticeConfigKey;
  /** The step's first note, and how much too long it was on average (too short: below zero), in ms. */
  note: number;
  ms: number;
  takes: number;
}

/**
 * The weak spot of a time over everything that was practised in it: the step of one passage that stood out in the most takes, in
 * the same direction; of several, the one that was farthest off.
 *
 * @returns null where no step stood out more than once
 */
export const mostOftenWeak = (weak: Practice['weak']): OftenWeak | null => {
  const spots = new Map<string, { config: PracticeConfigKey; spot: WeakSpot; ms: number[] }>();
  for (const { day: _day, spot, ...config } of weak) {
    const id = `${practiceConfigId(config)}/${spot.of}/${spot.note}/${Math.sign(spot.ms)}`;
    const one = spots.get(id) ?? { config, spot, ms: [] };
    one.ms.push(spot.ms);
    spots.set(id, one);
  }
  const [most] = [...spots.values()].sort((a, b) => b.ms.length - a.ms.length || Math.abs(mean(b.ms)) - Math.abs(mean(a.ms)));
  if (!most || most.ms.length < MIN_TAKES) return null;
  return { config: most.config, note: most.spot.note, ms: mean(most.ms), takes: most.ms.length };
};
