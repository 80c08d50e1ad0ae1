import type { Onset } from '../schema/measures';
import { median } from '../stats/summary';

/** The beats that were found in a recording, in seconds from its start, ascending. */
export interface FoundBeats {
  timesS: number[];
  /** How well onsets lie on them, 0…1: of the beats, how many have one within reach. */
  support: number;
}

const STEP_S = 0.01;
/** Onsets are smeared by about what a group of hands is apart. */
const SMEAR_S = 0.02;
/** So many decibels softer, and an onset counts a tenth. */
const LOUDNESS_DB = 12;
/** Tempos that are looked for, in beats a minute, and where most music lies (log-normal, and so wide that it hardly says more than the range). */
const [SLOWEST, FASTEST] = [40, 220];
const USUAL_BPM = 115;
const USUAL_OCTAVES = 2;
/** The tempo is looked for in windows of these lengths, moved by that: long ones are surer, short ones follow what breathes. */
const WINDOWS_S = [8, 5] as const;
const HOP_S = 1;
/** How dear a change of tempo is from window to window, for each octave squared. */
const DRIFT_COST = 60;
/** How dear a beat is that comes early or late against the local tempo (Ellis 2007). */
const TIGHTNESSES = [12, 25] as const;
/** What else the beat may be than the likeliest period: its parts and multiples. */
const FACTORS = [1, 1 / 2, 2, 2 / 3, 3 / 2] as const;
/** A beat is moved to an onset this near. */
const SNAP_S = 0.04;

/** Strength of onsets over time: louder ones count for more, softer than 30 dB under the loudest not at all. */
const strengthOf = (onsets: readonly Onset[], lengthS: number): Float32Array => {
  const strength = new Float32Array(Math.ceil(lengthS / STEP_S) + 1);
  const loudest = onsets.reduce((most, { levelDb }) => Math.max(most, levelDb), Number.NEGATIVE_INFINITY);
  const reach = Math.ceil((3 * SMEAR_S) / STEP_S);
  for (const { timeS, levelDb } of onsets) {
    const weight = 10 ** ((levelDb - loudest) / LOUDNESS_DB);
    const at = timeS / STEP_S;
    for (let k = Math.max(0, Math.floor(at) - reach); k <= Math.min(strength.length - 1, Math.ceil(at) + reach); k += 1)
      strength[k] = (strength[k] as number) + weight * Math.exp(-0.5 * (((k - at) * STEP_S) / SMEAR_S) ** 2);
  }
  return strength;
};

/** Periods in steps, evenly spread in octaves, from fast to slow. */
const PERIODS: readonly number[] = (() => {
  const each = 48;
  const octaves = Math.log2(FASTEST / SLOWEST);
  return Array.from({ length: Math.round(octaves * each) + 1 }, (_, k) => 60 / (FASTEST * 2 ** (-k / each)) / STEP_S);
})();

const usual = (period: number): number => {
  const octaves = Math.log2(60 / (period * STEP_S) / USUAL_BPM);
  return Math.exp(-0.5 * (octaves / USUAL_OCTAVES) ** 2);
};

/** How alike a stretch is to itself so many steps later, between samples by a straight line. */
const alikeAt = (strength: Float32Array, from: number, to: number, lag: number): number => {
  const whole = Math.floor(lag);
  const rest = lag - whole;
  let product = 0;
  for (let k = from; k < to && k + whole + 1 < strength.length; k += 1) {
    const own = strength[k] as number;
    if (own > 0.01)
      product += own * ((strength[k + whole] as number) * (1 - rest) + (strength[k + whole + 1] as number) * rest);
  }
  return product;
};

/** After how many periods a stretch must be like itself, and how much that counts: all of them, or it is no beat (three halves of one are like it after two). */
const MULTIPLES = [
  [1, 1],
  [2, 0.5],
  [4, 0.25],
] as const;

const likeness = (strength: Float32Array, from: number, to: number, period: number): number =>
  MULTIPLES.reduce((score, [times, weight]) => score * (alikeAt(strength, from, to, times * period) + 1e-6) ** weight, 1);

/** The period of each window, the likeliest way through all of them: changes of tempo cost. */
const periodsOf = (strength: Float32Array, windowS: number): number[] => {
  const windows = Math.max(1, Math.floor((strength.length * STEP_S - windowS) / HOP_S) + 1);
  let before: Float64Array | null = null;
  const back: Int16Array[] = [];
  for (let w = 0; w < windows; w += 1) {
    const from = Math.round((w * HOP_S) / STEP_S);
    const to = Math.min(strength.length, from + Math.round(windowS / STEP_S));
    const scores = PERIODS.map((period) => likeness(strength, from, to, period) * usual(period));
    const most = Math.max(...scores, 1e-9);
    const best = new Float64Array(PERIODS.length);
    const came = new Int16Array(PERIODS.length);
    for (let p = 0; p < PERIODS.length; p += 1) {
      let value = 0;
      came[p] = p;
      if (before) {
        value = Number.NEGATIVE_INFINITY;
        // Farther than half an octave in a second no one goes.
        for (let q = Math.max(0, p - 24); q <= Math.min(PERIODS.length - 1, p + 24); q += 1) {
          const octaves = (p - q) / 48;
          const through = (before[q] as number) - DRIFT_COST * octaves ** 2;
          if (through > value) {
            value = through;
            came[p] = q;
          }
        }
      }
      best[p] = value + (scores[p] as number) / most;
    }
    before = best;
    back.push(came);
  }
  let place = (before as Float64Array).reduce((at, value, p, all) => (value > (all[at] as number) ? p : at), 0);
  const path: number[] = [];
  for (let w = windows - 1; w >= 0; w -= 1) {
    path.push(PERIODS[place] as number);
    place = (back[w] as Int16Array)[place] as number;
  }
  return path.reverse();
};

/** The period at a step, between the middles of windows by a straight line. */
const periodAt = (periods: readonly number[], windowS: number, step: number): number => {
  const at = (step * STEP_S - windowS / 2) / HOP_S;
  const low = Math.max(0, Math.min(periods.length - 1, Math.floor(at)));
  const high = Math.min(periods.length - 1, low + 1);
  const share = Math.max(0, Math.min(1, at - low));
  return (periods[low] as number) * (1 - share) + (periods[high] as number) * share;
};

/** Logarithms of whole numbers of steps, as far as two beats can lie apart. */
const LOGS = Float64Array.from({ length: Math.ceil((2 * 60) / SLOWEST / STEP_S) + 2 }, (_, steps) => Math.log(steps));

/** Beats through a recording: strong where there are onsets, and a period apart. */
const track = (strength: Float32Array, periods: Float64Array, tightness: number): number[] => {
  const score = new Float64Array(strength.length);
  const came = new Int32Array(strength.length).fill(-1);
  for (let k = 0; k < strength.length; k += 1) {
    const period = periods[k] as number;
    const logPeriod = Math.log(period);
    let best = 0;
    for (let j = Math.max(0, Math.round(k - 2 * period), k - LOGS.length + 1); j <= k - period / 2; j += 1) {
      const value = (score[j] as number) - tightness * ((LOGS[k - j] as number) - logPeriod) ** 2;
      if (value > best) {
        best = value;
        came[k] = j;
      }
    }
    score[k] = (strength[k] as number) + best;
  }
  const lastFrom = Math.max(0, strength.length - Math.round(1.2 * (periods.at(-1) as number)));
  let at = lastFrom;
  for (let k = lastFrom; k < strength.length; k += 1) if ((score[k] as number) > (score[at] as number)) at = k;
  const steps: number[] = [];
  for (; at >= 0; at = came[at] as number) steps.push(at);
  return steps.reverse();
};

/**
 * How far beats stand out: by how many standard errors the strength where they lie is above what as many places would have by chance.
 * A beat that is half missed, or goes over to the off-beats, stands out less; twice as many stand out more as long as they are as strong.
 */
const snapshot = (strength: Float32Array, steps: readonly number[]): number => {
  if (steps.length < 2) return Number.NEGATIVE_INFINITY;
  const [first, last] = [steps[0] as number, steps.at(-1) as number];
  const within = strength.subarray(first, last + 1);
  const level = within.reduce((sum, value) => sum + value, 0) / within.length;
  const spread = Math.sqrt(within.reduce((sum, value) => sum + (value - level) ** 2, 0) / within.length);
  const own = steps.reduce((sum, step) => sum + (strength[step] as number), 0) / steps.length;
  return ((own - level) * Math.sqrt(steps.length)) / (spread || 1);
};

/** The beats that stand out most, of those tracked by several windows, and at parts and multiples of the likeliest period. */
const bestTrack = (strength: Float32Array): number[] => {
  let best: { steps: number[]; score: number } = { steps: [], score: Number.NEGATIVE_INFINITY };
  for (const windowS of WINDOWS_S) {
    const found = periodsOf(strength, windowS);
    for (const factor of FACTORS) {
      const bpm = 60 / (median(found) * factor * STEP_S);
      if (bpm < SLOWEST || bpm > FASTEST) continue;
      const periods = Float64Array.from(strength, (_, step) => factor * periodAt(found, windowS, step));
      for (const tightness of TIGHTNESSES) {
        const steps = track(strength, periods, tightness);
        const score = snapshot(strength, steps) * usual(60 / bpm / STEP_S);
        if (score > best.score) best = { steps, score };
      }
    }
  }
  return best.steps;
};

/** The onset nearest to a time within reach; null for none. */
const onsetNear = (onsets: readonly Onset[], timeS: number): number | null => {
  let best: { timeS: number; cost: number } | null = null;
  for (const one of onsets) {
    const apart = Math.abs(one.timeS - timeS);
    if (apart > SNAP_S) continue;
    if (!best || apart < best.cost) best = { timeS: one.timeS, cost: apart };
  }
  return best?.timeS ?? null;
};

/**
 * Finds the beats of a recording from its onsets (ascending), steady or drifting: the tempo of windows of 8 and of 5 s by how alike the
 * onsets are to themselves a beat later, the likeliest way through them, then beats by dynamic programming (D. P. W. Ellis, "Beat tracking
 * by dynamic programming", J. New Music Research 36, 2007) at that period and at its parts and multiples; of all these the beats that stand
 * out most, each moved to the onset that it means. Fewer than 4 onsets have no beats.
 */
export const findBeats = (onsets: readonly Onset[], lengthS: number): FoundBeats => {
  if (onsets.length < 4) return { timesS: [], support: 0 };
  const strength = strengthOf(onsets, lengthS);
  const rough = bestTrack(strength).map((step) => step * STEP_S);
  // Before the first onset and after the last nothing is known.
  const [first, last] = [(onsets[0] as Onset).timeS - SNAP_S, (onsets.at(-1) as Onset).timeS + SNAP_S];
  const inside = rough.filter((timeS) => timeS >= first && timeS <= last);
  const snapped = inside.map((timeS) => onsetNear(onsets, timeS));
  return {
    timesS: inside.map((timeS, k) => snapped[k] ?? timeS),
    support: inside.length ? snapped.filter((timeS) => timeS !== null).length / inside.length : 0,
  };
};
