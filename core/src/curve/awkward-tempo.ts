import { mean, sampleSd } from '../stats/summary';
import type { SweptNote } from './break-tempo';

/** A tempo at which playing was less even than just slower and just faster. */
export interface AwkwardTempo {
  bpm: number;
  low: number;
  high: number;
  /** How many times as uneven as its surroundings. */
  times: number;
}

/** A stretch of tempos is looked at with so much to either side, in logarithms: 4 %. */
const HALF_WIDTH = 0.04;
/** And is held against what lies between there and this far off. */
const REACH = 0.16;
const PLACES = 40;
/** Fewer notes than this in a stretch, on either way, tell nothing. */
const MIN_NOTES = 12;
/**
 * How far the stretch must stand out, in standard errors, four times over: on the way up and on the way down, against slower and
 * against faster. Set so that runs without an awkward tempo stay silent 97 times in 100.
 */
const MIN_STANDING = 1.4;
/** Less than this is not worth a sentence. */
const MIN_TIMES = 1.4;

/** One note: the logarithm of its tempo, and of how far off it was as a share of its interval. */
interface Told {
  tempo: number;
  size: number;
}

/** The notes of one way, up or down, that sounded. */
const toldBy = (notes: readonly SweptNote[]): Told[] => {
  const heard = notes.filter(({ errorMs }) => errorMs !== null);
  const shares = heard.map(({ errorMs, intervalMs }) => Math.abs(errorMs as number) / intervalMs);
  // The logarithm of next to nothing would outweigh everything else.
  const least = 0.3 * mean(shares);
  return heard.map(({ bpm }, k) => ({ tempo: Math.log(bpm), size: Math.log((shares[k] as number) + least) }));
};

/** How far a stretch stands out of the tempos just slower and just faster, each for itself; null where too few notes tell. */
const snapshot = (told: readonly Told[], tempo: number): { errors: number; times: number } | null => {
  const between = (from: number, to: number) =>
    told.filter((one) => one.tempo >= tempo + from && one.tempo < tempo + to).map(({ size }) => size);
  const inside = between(-HALF_WIDTH, HALF_WIDTH);
  const sides = [between(-REACH, -HALF_WIDTH), between(HALF_WIDTH, REACH)];
  if (inside.length < MIN_NOTES || sides.some((side) => side.length < MIN_NOTES)) return null;
  const spread = sampleSd(told.map(({ size }) => size));
  const against = sides.map((side) => {
    const difference = mean(inside) - mean(side);
    return { difference, errors: difference / (spread * Math.sqrt(1 / inside.length + 1 / side.length)) };
  });
  return {
    errors: Math.min(...against.map(({ errors }) => errors)),
    times: Math.exp(mean(against.map(({ difference }) => difference))),
  };
};

/** A run's notes on the way up to its fastest place and on the way down; where the tempo stands still they belong to neither. */
const repetitionKinds = (run: readonly SweptNote[]): [SweptNote[], SweptNote[]] => {
  const moves = run.map(({ bpm }, k) => Math.sign(Math.round(1e6 * Math.log(bpm / (run[k - 1]?.bpm ?? bpm)))));
  return [run.filter((_, k) => moves[k] === 1), run.filter((_, k) => moves[k] === -1)];
};

/**
 * The tempo that is awkward in runs from slow to fast and back: there notes lie farther off than at slower and at
 * faster ones, on the way up as on the way down, over all runs together. Null where no tempo stands out, which is the usual case.
 */
export const awkwardTempo = (runs: readonly (readonly SweptNote[])[]): AwkwardTempo | null => {
  const both = runs.map(repetitionKinds);
  const up = toldBy(both.flatMap(([rising]) => rising));
  const down = toldBy(both.flatMap(([, falling]) => falling));
  if (up.length < 3 * MIN_NOTES || down.length < 3 * MIN_NOTES) return null;
  const tempos = [...up, ...down].map(({ tempo }) => tempo);
  const [lowest, highest] = [Math.min(...tempos), Math.max(...tempos)];
  let best: { tempo: number; errors: number; times: number } | null = null;
  for (let k = 0; k < PLACES; k += 1) {
    const tempo = lowest + HALF_WIDTH + ((highest - lowest - 2 * HALF_WIDTH) * k) / (PLACES - 1);
    const [rising, falling] = [snapshot(up, tempo), snapshot(down, tempo)];
    if (!rising || !falling) continue;
    const errors = Math.min(rising.errors, falling.errors);
    if (!best || errors > best.errors) best = { tempo, errors, times: Math.sqrt(rising.times * falling.times) };
  }
  if (!best || best.errors < MIN_STANDING || best.times < MIN_TIMES) return null;
  const at = (offset: number) => Math.exp((best as { tempo: number }).tempo + offset);
  return { bpm: at(0), low: at(-HALF_WIDTH), high: at(HALF_WIDTH), times: best.times };
};
