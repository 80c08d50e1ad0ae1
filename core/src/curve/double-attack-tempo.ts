/** A note of a sweep: the tempo there, and whether it was struck twice. */
export interface DoubleAttackAtTempo {
  bpm: number;
  isDoubled: boolean;
}

const MIN_DOUBLE_ATTACKS = 3;
/** How much better a beginning must fit than the same share throughout, in logarithms of likelihood. */
const MIN_GAIN = 5;

const logOf = (share: number, hits: number, of: number): number =>
  (hits > 0 ? hits * Math.log(share) : 0) + (of > hits ? (of - hits) * Math.log(1 - share) : 0);

/** How well a constant share fits so many of so many, as a logarithm of likelihood. */
const fit = (hits: number, of: number): number => (of === 0 ? 0 : logOf(hits / of, hits, of));

/**
 * The tempo from which on doubled attacks come, in a run from slow to fast: where two shares, few before and more after, explain
 * them best. Null where there are few of them, or they come at any tempo alike. `notes` ascend in tempo.
 */
export const doubleAttackTempo = (notes: readonly DoubleAttackAtTempo[]): number | null => {
  const all = notes.filter(({ isDoubled }) => isDoubled).length;
  if (all < MIN_DOUBLE_ATTACKS) return null;
  let best = { gain: Number.NEGATIVE_INFINITY, bpm: 0 };
  let before = 0;
  notes.forEach(({ bpm, isDoubled }, k) => {
    const [hits, rest] = [all - before, notes.length - k];
    const isMore = hits / rest > before / Math.max(1, k);
    const gain = fit(before, k) + fit(hits, rest) - fit(all, notes.length);
    if (k > 0 && isMore && gain > best.gain) best = { gain, bpm };
    if (isDoubled) before += 1;
  });
  return best.gain >= MIN_GAIN ? best.bpm : null;
};
