/**
 * Players unlike the ones that ship with the product: made for checking, and never used to choose a constant. Each gives the deviation of
 * every note in ms, for a standard deviation that is asked for at each note.
 */
import { chanceOf } from './random';

/** What a player is given: the notes' times, and how unsteady each note is to be. */
export interface ToPlay {
  timesS: readonly number[];
  sdMs: readonly number[];
  seed: number;
}

export interface Player {
  id: string;
  /** What their timing is like. */
  about: string;
  /** Deviations in ms, one a note. */
  deviationsMs(toPlay: ToPlay): number[];
}

/** Noise of unit variance, one value a note; scaled by what is asked for at each. */
const scaled =
  (noise: (count: number, seed: number) => number[]) =>
  ({ sdMs, seed }: ToPlay): number[] =>
    noise(sdMs.length, seed).map((value, k) => value * (sdMs[k] as number));

const independent = (count: number, seed: number): number[] => {
  const { normal } = chanceOf(seed);
  return Array.from({ length: count }, () => normal());
};

/** Each value keeps a share of the one before it; negative where an error is corrected at the next note. */
const autoregressive =
  (keep: number) =>
  (count: number, seed: number): number[] => {
    const { normal } = chanceOf(seed);
    let before = normal();
    return Array.from({ length: count }, (_, k) => {
      if (k > 0) before = keep * before + Math.sqrt(1 - keep ** 2) * normal();
      return before;
    });
  };

/** 1/f noise by Voss and McCartney: sources that are drawn anew every 1, 2, 4 … notes, so that slow wandering weighs as much as quick. */
const pink = (count: number, seed: number): number[] => {
  const { normal } = chanceOf(seed);
  const sources = 6;
  const values = Array.from({ length: sources }, () => normal());
  return Array.from({ length: count }, (_, k) => {
    for (let source = 0; source < sources; source += 1) if (k % 2 ** source === 0) values[source] = normal();
    return values.reduce((sum, value) => sum + value, 0) / Math.sqrt(sources);
  });
};

/** Student's t with three degrees of freedom, unit variance: mostly tight, now and then far off. */
const heavyTailed = (count: number, seed: number): number[] => {
  const { normal } = chanceOf(seed);
  return Array.from({ length: count }, () => {
    const scale = (normal() ** 2 + normal() ** 2 + normal() ** 2) / 3;
    return normal() / Math.sqrt(scale) / Math.sqrt(3);
  });
};

/** A gamma of shape 4, centred, of unit variance: rather late than early. */
const skewed = (count: number, seed: number): number[] => {
  const { uniform } = chanceOf(seed);
  return Array.from({ length: count }, () => {
    let sum = 0;
    for (let k = 0; k < 4; k += 1) sum -= Math.log(1 - uniform());
    return (sum - 4) / 2;
  });
};

/** A clock that is corrected to the click, and a hand that lags by chance (two levels). */
const twoLevel = (count: number, seed: number): number[] => {
  const { normal } = chanceOf(seed);
  const correction = 0.3;
  let clock = 0;
  const raw = Array.from({ length: count }, () => {
    clock = (1 - correction) * clock + 0.6 * normal();
    return clock + 0.7 * normal();
  });
  const variance = 0.36 / (1 - (1 - correction) ** 2) + 0.49;
  return raw.map((value) => value / Math.sqrt(variance));
};

/** Twice as unsteady at the end as at the beginning. */
const tiring = (count: number, seed: number): number[] =>
  independent(count, seed).map((value, k) => (value * (1 + k / Math.max(1, count - 1))) / Math.sqrt(7 / 3));

export const PLAYERS: readonly Player[] = [
  { id: 'independent', about: 'every note for itself', deviationsMs: scaled(independent) },
  { id: 'two-level', about: 'a clock and a hand', deviationsMs: scaled(twoLevel) },
  { id: 'ar+', about: 'each note keeps 0.3 of the error before', deviationsMs: scaled(autoregressive(0.3)) },
  { id: 'ar-', about: 'each note undoes 0.3 of the error before', deviationsMs: scaled(autoregressive(-0.3)) },
  { id: 'pink', about: 'wanders at all speeds (1/f)', deviationsMs: scaled(pink) },
  { id: 't3', about: 'mostly tight, now and then far off (t3)', deviationsMs: scaled(heavyTailed) },
  { id: 'skewed', about: 'rather late than early', deviationsMs: scaled(skewed) },
  { id: 'tiring', about: 'twice as unsteady at the end', deviationsMs: scaled(tiring) },
];

export const playerOf = (id: string): Player => {
  const found = PLAYERS.find((player) => player.id === id);
  if (!found) throw new Error(`No player ${id}`);
  return found;
};
