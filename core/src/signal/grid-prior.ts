/** Log-odds that the grid may add close to an expected note, or take off far from one. Both stay small: see below. */
const NEAR_LOG_ODDS = 1.2;
const FAR_LOG_ODDS = -1;
/** Close is within this share of the interval, but at least so many seconds. */
const NEAR_SHARE = 0.15;
const MIN_NEAR_S = 0.02;

/**
 * What the grid makes likely: log-odds to add for a note that begins at a time. `expectedS` ascends, in the detector's own
 * time, latency added. It only tips the balance of candidates that the sound itself makes doubtful: silence offers no
 * candidates, so it cannot invent a note, and it never moves one, because it has no say in where a candidate lies.
 */
export const gridPrior = (expectedS: readonly number[]): ((timeS: number) => number) => {
  const nearest = (timeS: number): number => {
    let low = 0;
    let high = expectedS.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((expectedS[middle] as number) < timeS) low = middle + 1;
      else high = middle;
    }
    const after = expectedS[low];
    const before = expectedS[low - 1];
    if (after === undefined || before === undefined) return after === undefined ? low - 1 : low;
    return after - timeS < timeS - before ? low : low - 1;
  };
  return (timeS) => {
    if (expectedS.length < 2) return 0;
    const k = nearest(timeS);
    const own = expectedS[k] as number;
    const gaps = [own - (expectedS[k - 1] ?? Number.NEGATIVE_INFINITY), (expectedS[k + 1] ?? Number.POSITIVE_INFINITY) - own];
    const intervalS = Math.min(...gaps);
    const distance = Math.abs(timeS - own) / Math.max(MIN_NEAR_S, NEAR_SHARE * intervalS);
    // Full inside one width, nothing at two, the opposite from three on.
    if (distance <= 1) return NEAR_LOG_ODDS;
    if (distance <= 2) return NEAR_LOG_ODDS * (2 - distance);
    return FAR_LOG_ODDS * Math.min(1, distance - 2);
  };
};
