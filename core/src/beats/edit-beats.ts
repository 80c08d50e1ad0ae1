/** Beats twice as dense: one more in the middle of each two. */
export const doubleBeats = (timesS: readonly number[]): number[] =>
  timesS.flatMap((timeS, k) => {
    const next = timesS[k + 1];
    return next === undefined ? [timeS] : [timeS, (timeS + next) / 2];
  });

/** Every other beat, beginning with the first or the second. */
export const halveBeats = (timesS: readonly number[], from: 0 | 1 = 0): number[] => timesS.filter((_, k) => k % 2 === from);

/** Beats half a beat later: for those that were found on the off-beats. */
export const shiftBeats = (timesS: readonly number[]): number[] =>
  timesS.slice(0, -1).map((timeS, k) => (timeS + (timesS[k + 1] as number)) / 2);

/** One beat moved; it stays between its neighbours. */
export const moveBeat = (timesS: readonly number[], index: number, toS: number): number[] => {
  const [before, after] = [timesS[index - 1] ?? Number.NEGATIVE_INFINITY, timesS[index + 1] ?? Number.POSITIVE_INFINITY];
  return timesS.map((timeS, k) => (k === index ? Math.min(after - 0.01, Math.max(before + 0.01, toS)) : timeS));
};

/** Without the beat that is nearest to a time. */
export const removeBeat = (timesS: readonly number[], nearS: number): number[] => {
  const nearest = timesS.reduce((at, timeS, k) => (Math.abs(timeS - nearS) < Math.abs((timesS[at] ?? 0) - nearS) ? k : at), 0);
  return timesS.filter((_, k) => k !== nearest);
};

/** With one more beat. */
export const addBeat = (timesS: readonly number[], atS: number): number[] => [...timesS, atS].sort((a, b) => a - b);

/** Taps reach as far as this share of their own distance. */
const TAP_REACH = 0.3;

/**
 * Beats by tapping along: from the first tap to the last they are the taps, each moved to the onset that it means (within 30 % of a tap's
 * distance); what was found outside of them stays.
 */
export const tapBeats = (timesS: readonly number[], tapsS: readonly number[], onsetsS: readonly number[]): number[] => {
  const taps = [...tapsS].sort((a, b) => a - b);
  const [first, last] = [taps[0], taps.at(-1)];
  if (first === undefined || last === undefined || taps.length < 2) return [...timesS];
  const reachS = TAP_REACH * ((last - first) / (taps.length - 1));
  const meant = taps.map((tapS) =>
    onsetsS.reduce(
      (best, timeS) =>
        Math.abs(timeS - tapS) < Math.min(reachS, best === tapS ? reachS : Math.abs(best - tapS)) ? timeS : best,
      tapS,
    ),
  );
  const outside = timesS.filter((timeS) => timeS < first - reachS || timeS > last + reachS);
  return [...new Set([...outside, ...meant])].sort((a, b) => a - b);
};
