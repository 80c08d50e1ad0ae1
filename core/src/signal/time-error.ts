/** What is known of how well an onset was timed. */
export interface Timing {
  isSharp: boolean;
  /** How far off the ear thinks its own time is (mean absolute error), in ms. */
  earErrorMs: number;
  /** How far the ear's time and the one refined in the sound lie apart, in ms. */
  apartMs: number;
}

/**
 * For attacks that are sharp and for others: a constant, and shares of the two. Fitted by bench/hearing/fit-time-error.ts to recordings in
 * hard surroundings, and taken down by a third, to what bench/hearing.ts finds in ordinary ones.
 */
const WEIGHTS = {
  sharp: { constant: 0.2, ear: 0.4, apart: 0.1 },
  slow: { constant: 0.5, ear: 0.9, apart: 0.35 },
};

/**
 * How far off the time of an onset may be, in ms (standard deviation). Two ways of timing that agree, and an ear that thinks itself
 * sure, are rarely far off.
 */
export const timeErrorMs = ({ isSharp, earErrorMs, apartMs }: Timing): number => {
  const { constant, ear, apart } = isSharp ? WEIGHTS.sharp : WEIGHTS.slow;
  return constant + ear * earErrorMs + apart * apartMs;
};
