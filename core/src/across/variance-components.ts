import { mean } from '../stats/summary';

/** A one-way analysis of variance. */
export interface OneWayAnova {
  betweenDegrees: number;
  withinDegrees: number;
  betweenMeanSquare: number;
  withinMeanSquare: number;
  fStatistic: number;
  /** Effective group size: (N − Σnᵢ²/N)/(a − 1); the common size where all groups are alike. */
  groupSize: number;
}

/**
 * One-way analysis of variance over groups of values; null where there are not two groups or no value beyond one a group.
 * Sums run over differences from the grand mean, so that a large common offset costs no digits.
 * Source: NIST/SEMATECH e-Handbook of Statistical Methods, 7.4.3.
 */
export const oneWayAnova = (groups: readonly (readonly number[])[]): OneWayAnova | null => {
  const filled = groups.filter((group) => group.length > 0);
  const total = filled.reduce((sum, group) => sum + group.length, 0);
  const betweenDegrees = filled.length - 1;
  const withinDegrees = total - filled.length;
  if (betweenDegrees < 1 || withinDegrees < 1) return null;
  const origin = mean(filled.flat());
  const centred = filled.map((group) => group.map((value) => value - origin));
  const grand = mean(centred.flat());
  let between = 0;
  let within = 0;
  for (const group of centred) {
    const centre = mean(group);
    between += group.length * (centre - grand) ** 2;
    for (const value of group) within += (value - centre) ** 2;
  }
  const squares = filled.reduce((sum, group) => sum + group.length ** 2, 0);
  const betweenMeanSquare = between / betweenDegrees;
  const withinMeanSquare = within / withinDegrees;
  return {
    betweenDegrees,
    withinDegrees,
    betweenMeanSquare,
    withinMeanSquare,
    fStatistic: betweenMeanSquare / withinMeanSquare,
    groupSize: (total - squares / total) / betweenDegrees,
  };
};

/** What part of the unsteadiness is the same spot every time (technique), and what part differs (control). */
export interface VarianceComponents {
  systematicSdMs: number;
  randomSdMs: number;
  /** Share of the variance that is systematic, 0…1. */
  systematicShare: number;
}

/**
 * One-way random-effects components: systematic = max(0, (MS_between − MS_within)/n), random = MS_within. A group is one
 * position's deviations in ms over the repetitions. Null where there is too little to tell.
 */
export const varianceComponents = (positions: readonly (readonly number[])[]): VarianceComponents | null => {
  const anova = oneWayAnova(positions);
  if (!anova) return null;
  const systematic = Math.max(0, (anova.betweenMeanSquare - anova.withinMeanSquare) / anova.groupSize);
  const all = systematic + anova.withinMeanSquare;
  return {
    systematicSdMs: Math.sqrt(systematic),
    randomSdMs: Math.sqrt(anova.withinMeanSquare),
    systematicShare: all > 0 ? systematic / all : 0,
  };
};
