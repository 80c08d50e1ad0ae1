import type { PracticeDay } from '../schema/practice';
import { practiceConfigId } from '../schema/practice-config';
import { mean } from '../stats/summary';
import { dayIndex } from '../time/day';

/** How a passage opened after days without it: at what tempo against the one that was clean before, and whether that was clean. */
export interface Opening {
  configId: string;
  gapDays: number;
  /** The tempo of the day's first repetition over the best clean one of the last day that had one. */
  ratio: number;
  clean: boolean;
}

/** The first repetition of each day against the close of the day before it, for each configuration. Days in any order. */
export const openingsOf = (days: readonly PracticeDay[]): Opening[] => {
  const before = new Map<string, { index: number; bestBpm: number | null }>();
  return [...days]
    .sort((a, b) => a.day.localeCompare(b.day))
    .flatMap((one) => {
      const id = practiceConfigId(one);
      const index = dayIndex(one.day);
      const last = before.get(id);
      before.set(id, { index, bestBpm: one.bestCleanBpm ?? last?.bestBpm ?? null });
      if (!last?.bestBpm || one.openBpm === null || one.openClean === null || index <= last.index) return [];
      return [{ configId: id, gapDays: index - last.index, ratio: one.openBpm / last.bestBpm, clean: one.openClean }];
    });
};

/** How fast the tempo that is clean is lost without playing: it falls by the rate times the logarithm of the days. */
export interface Forgetting {
  /** Share of tempo lost for each e-fold of days. */
  rate: number;
  /** Between these it lies with 80 %. */
  low: number;
  high: number;
  /** What a single night changes, as a share: below 0 where one opens above the close. */
  night: number;
  /** Openings that it rests on. */
  count: number;
}

/** How sharply clean turns into not clean, in shares of tempo: the clean chance is logistic in the logarithm of tempo. */
const SHARPNESSES = [0.025, 0.035, 0.05, 0.07, 0.1, 0.14];
const grid = (from: number, to: number, step: number): number[] =>
  Array.from({ length: Math.round((to - from) / step) + 1 }, (_, k) => from + k * step);
const RATES = grid(0, 0.3, 0.004);
const NIGHTS = grid(-0.2, 0.2, 0.02);
/** Before anything is known: most lose little (assumed). */
const USUAL_RATE = 0.03;
const NIGHT_SD = 0.06;
const USUAL_SHARPNESS = 0.06;
const SHARPNESS_SD = 0.5;

/** How far a day's best clean tempo lies from what the player could, as a share: by the steps of tempo and by luck (assumed). */
const CLOSE_NOISE = 0.02;

/**
 * Openings with the noise of their ratios taken out on average: each is drawn towards the mean as far as noise alone would have spread
 * them. Otherwise slow starts look as if they helped less than they do, and all losses too large.
 */
const steadied = (openings: readonly Opening[]): Opening[] => {
  if (openings.length === 0) return [];
  const logs = openings.map(({ ratio }) => Math.log(ratio));
  const middle = mean(logs);
  const variance = mean(logs.map((log) => (log - middle) ** 2));
  const kept = Math.max(0, 1 - CLOSE_NOISE ** 2 / Math.max(variance, 1e-9));
  return openings.map((one, k) => ({ ...one, ratio: Math.exp(middle + kept * ((logs[k] as number) - middle)) }));
};

const logChance = ({ gapDays, ratio, clean }: Opening, rate: number, night: number, sharpness: number): number => {
  const margin = (-night - rate * Math.log(gapDays) - Math.log(ratio)) / sharpness;
  return -Math.log1p(Math.exp(clean ? -margin : margin));
};

/** Mean and middle 80 % of a rate whose log weights are given over {@link RATES}. */
const spreadOf = (logs: readonly number[]): Pick<Forgetting, 'rate' | 'low' | 'high'> => {
  const most = Math.max(...logs);
  const weights = logs.map((log) => Math.exp(log - most));
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const at = (share: number): number => {
    let sum = 0;
    const place = weights.findIndex((weight) => {
      sum += weight;
      return sum >= share * total;
    });
    return RATES[Math.max(0, place)] as number;
  };
  return {
    rate: weights.reduce((sum, weight, k) => sum + weight * (RATES[k] as number), 0) / total,
    low: at(0.1),
    high: at(0.9),
  };
};

/** Logarithm of a sum of exponentials. */
const logSum = (logs: readonly number[]): number => {
  const most = Math.max(...logs);
  return most + Math.log(logs.reduce((sum, log) => sum + Math.exp(log - most), 0));
};

/** Exponential about a mean: what is thought of a rate before its own openings. Most lose little, some nothing. */
const logPrior = (rate: number, usual: number): number => -rate / Math.max(0.004, usual);

/**
 * The player's own forgetting, over all passages, by Bayes on a grid: the rate, what a night changes, and how sharply clean turns into
 * not clean. A clean opening says only that no more was lost than the start lay below the close.
 */
export const fitForgetting = (noisy: readonly Opening[]): Forgetting => {
  const openings = steadied(noisy);
  const byRate = RATES.map((rate) =>
    NIGHTS.flatMap((night) =>
      SHARPNESSES.map((sharpness) => {
        const fit = openings.reduce((sum, opening) => sum + logChance(opening, rate, night, sharpness), 0);
        const shape = -0.5 * (night / NIGHT_SD) ** 2 - 0.5 * (Math.log(sharpness / USUAL_SHARPNESS) / SHARPNESS_SD) ** 2;
        return fit + logPrior(rate, USUAL_RATE) + shape;
      }),
    ),
  );
  const nights = NIGHTS.map((_, n) =>
    logSum(byRate.map((row) => logSum(row.slice(n * SHARPNESSES.length, (n + 1) * SHARPNESSES.length)))),
  );
  const total = logSum(nights);
  const night = NIGHTS.reduce((sum, value, n) => sum + value * Math.exp((nights[n] as number) - total), 0);
  return { ...spreadOf(byRate.map(logSum)), night, count: openings.length };
};

/** The same of one passage: its own openings, on top of what is known of the player. */
export const fitPassage = (noisy: readonly Opening[], player: Forgetting): Forgetting => {
  const openings = steadied(noisy);
  const logs = RATES.map((rate) => {
    const fit = logSum(
      SHARPNESSES.map((sharpness) => openings.reduce((sum, one) => sum + logChance(one, rate, player.night, sharpness), 0)),
    );
    return fit + logPrior(rate, player.rate);
  });
  return { ...spreadOf(logs), night: player.night, count: openings.length };
};

/** The share of tempo that is lost after so many days, by what is known. */
export const lostAfter = ({ rate }: Pick<Forgetting, 'rate'>, days: number): number =>
  1 - Math.exp(-rate * Math.log(Math.max(1, days)));
