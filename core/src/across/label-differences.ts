import type { GridEvent } from '../schema/grid';
import type { NoteResult } from '../schema/measures';
import { type Estimate, sdEstimate, studentTQuantile } from '../stats/interval-estimate';
import { lag1Autocorrelation, mean, sampleSd } from '../stats/summary';
import { LABEL_KINDS, type LabelKind } from './label-kinds';
import { centredDeviationsMs } from './position-profile';
import { MIN_REPETITIONS } from './usable';

/** The chance of any false alarm among the pairs of one kind of label. */
const FALSE_ALARM = 0.05;

/** The notes of one label over all repetitions. */
export interface LabelFigures {
  label: string;
  count: number;
  biasMs: number;
  spreadMs: Estimate;
  /** Mean level against the repetition's own mean, dB. */
  levelDb: number | null;
}

/** One label against the next: a difference of means with its 95 % interval. */
export interface LabelDifference {
  kind: string;
  first: LabelFigures;
  second: LabelFigures;
  biasMs: Estimate;
  levelDb: Estimate;
  /** Whether the difference stays clear of zero although so many pairs were compared (Bonferroni). */
  biasStandsOut: boolean;
  levelStandsOut: boolean;
}

/**
 * The difference of two means, first − second, with its interval at a confidence (0…1) by Welch's method (unequal variances,
 * Welch–Satterthwaite degrees of freedom). Source: NIST/SEMATECH e-Handbook, 1.3.5.3.
 */
export const welchDifference = (first: readonly number[], second: readonly number[], confidence = 0.95): Estimate => {
  const value = mean(first) - mean(second);
  const a = sampleSd(first) ** 2 / first.length;
  const b = sampleSd(second) ** 2 / second.length;
  const error = Math.sqrt(a + b);
  if (!Number.isFinite(error) || error === 0) return { value, low: null, high: null };
  const degrees = (a + b) ** 2 / (a ** 2 / (first.length - 1) + b ** 2 / (second.length - 1));
  const half = studentTQuantile(0.5 + confidence / 2, degrees) * error;
  return { value, low: value - half, high: value + half };
};

/** One note of the grid over all repetitions, by what it is labelled. */
interface LabelledPosition {
  label: string;
  deviations: number[];
  /** Levels against their repetition's mean; none for accented notes, which are meant to be loud. */
  levels: number[];
}

/** One label's figure in one repetition: the mean over its notes. */
type ByRepetition = Map<string, (number | null)[]>;

interface Labelled {
  positions: LabelledPosition[];
  deviations: ByRepetition;
  levels: ByRepetition;
}

const meanOrNull = (values: readonly number[]) => (values.length ? mean(values) : null);

/** The notes of a grid by label, over positions and over repetitions. */
const labelled = (kind: LabelKind, repetitions: readonly (readonly NoteResult[])[], events: readonly GridEvent[]): Labelled => {
  const positions = (repetitions[0] ?? []).flatMap(({ index }, k) => {
    const event = events[index];
    const label = event ? kind.labelOf(event) : null;
    return label === null
      ? []
      : [{ k, label, accent: event?.accent ?? false, deviations: [] as number[], levels: [] as number[] }];
  });
  const deviations: ByRepetition = new Map();
  const levels: ByRepetition = new Map();
  const labels = new Set(positions.map(({ label }) => label));
  for (const label of labels) {
    deviations.set(label, []);
    levels.set(label, []);
  }
  // Most kinds of label are carried by no note of a passage.
  for (const notes of labels.size > 0 ? repetitions : []) {
    const centred = centredDeviationsMs(notes);
    const plain = positions.filter(({ accent }) => !accent).flatMap(({ k }) => notes[k]?.levelDb ?? []);
    const level = mean(plain);
    const own = new Map([...labels].map((label) => [label, { deviations: [] as number[], levels: [] as number[] }]));
    for (const position of positions) {
      const deviation = centred[position.k];
      const heard = notes[position.k]?.levelDb;
      if (deviation !== null && deviation !== undefined) {
        position.deviations.push(deviation);
        own.get(position.label)?.deviations.push(deviation);
      }
      if (heard !== null && heard !== undefined && !position.accent) {
        position.levels.push(heard - level);
        own.get(position.label)?.levels.push(heard - level);
      }
    }
    for (const [label, values] of own) {
      deviations.get(label)?.push(meanOrNull(values.deviations));
      levels.get(label)?.push(meanOrNull(values.levels));
    }
  }
  return { positions, deviations, levels };
};

/**
 * How much farther apart the means of two labels scatter than those of independent notes would, where neighbouring notes hang
 * together: by the notes' own lag-1 autocorrelation over the order in which the labels stand. At least 1.
 */
const neighbourFactor = (values: readonly number[], weights: readonly number[]): number => {
  const rho = Math.max(-0.5, Math.min(0.5, lag1Autocorrelation(values)));
  if (!Number.isFinite(rho)) return 1;
  const own = weights.reduce((sum, weight) => sum + weight ** 2, 0);
  const beside = weights.slice(1).reduce((sum, weight, k) => sum + weight * (weights[k] as number), 0);
  return Math.max(1, 1 + (2 * rho * beside) / own);
};

/** One value for each note of two labels, in the order of the grid. */
interface Pair {
  values: { label: string; value: number }[];
  first: string;
  second: string;
}

/**
 * The difference of two labels over notes: each note of the grid counts once, however often it was played, so that a note's habit
 * is not taken for a finger's. Its interval allows for neighbours that hang together.
 */
const overPositions = ({ values, first, second }: Pair, confidence: number): Estimate => {
  const of = (label: string) => values.filter((one) => one.label === label).map(({ value }) => value);
  const [own, other] = [of(first), of(second)];
  const welch = welchDifference(own, other, confidence);
  if (welch.low === null || welch.high === null) return welch;
  const centres = new Map([
    [first, mean(own)],
    [second, mean(other)],
  ]);
  const factor = neighbourFactor(
    values.map(({ label, value }) => value - (centres.get(label) as number)),
    values.map(({ label }) => (label === first ? 1 / own.length : -1 / other.length)),
  );
  const half = (Math.sqrt(factor) * (welch.high - welch.low)) / 2;
  return { value: welch.value, low: welch.value - half, high: welch.value + half };
};

/** The same difference from repetition to repetition: what differs there is chance, whatever the notes' habits are. */
const overRepetitions = (figures: ByRepetition, first: string, second: string, confidence: number): Estimate => {
  const rows = figures.get(first) ?? [];
  const others = figures.get(second) ?? [];
  const differences = rows.flatMap((value, k) => {
    const other = others[k];
    return value === null || other === null || other === undefined ? [] : [value - other];
  });
  const value = mean(differences);
  const half =
    (studentTQuantile(0.5 + confidence / 2, differences.length - 1) * sampleSd(differences)) / Math.sqrt(differences.length);
  return Number.isFinite(half) ? { value, low: value - half, high: value + half } : { value, low: null, high: null };
};

/** Fewer notes of a label than this say nothing of it. */
const MIN_NOTES = 3;

/**
 * By label: bias, spread and level of the notes that carry it, and every pair's difference. `events` are the grid's in the order of
 * the notes. A difference stands out where both the notes of the grid and the repetitions say so, corrected for how many pairs
 * are compared (Bonferroni). Labels with fewer than three notes in the grid, and takes with fewer than three repetitions, are left out.
 */
export const labelDifferences = (
  repetitions: readonly (readonly NoteResult[])[],
  events: readonly GridEvent[],
): LabelDifference[] =>
  repetitions.length < MIN_REPETITIONS
    ? []
    : LABEL_KINDS.flatMap((kind) => {
        const { positions, deviations, levels } = labelled(kind, repetitions, events);
        const countOf = (label: string) => positions.filter((one) => one.label === label && one.deviations.length > 0).length;
        const labels = [...new Set(positions.map(({ label }) => label))].filter((label) => countOf(label) >= MIN_NOTES).sort();
        const corrected = 1 - FALSE_ALARM / Math.max(1, (labels.length * (labels.length - 1)) / 2);
        const pair = (first: string, second: string, of: (one: LabelledPosition) => readonly number[]): Pair => ({
          first,
          second,
          values: positions
            .filter((one) => (one.label === first || one.label === second) && of(one).length > 0)
            .map((one) => ({ label: one.label, value: mean(of(one)) })),
        });
        const figuresOf = (label: string): LabelFigures => {
          const own = positions.filter((one) => one.label === label);
          const all = own.flatMap((one) => one.deviations);
          return {
            label,
            count: all.length,
            biasMs: mean(all),
            spreadMs: sdEstimate(sampleSd(all), all.length),
            levelDb: meanOrNull(own.flatMap((one) => one.levels)),
          };
        };
        return labels.flatMap((first, k) =>
          labels.slice(k + 1).map((second): LabelDifference => {
            const timing = pair(first, second, (one) => one.deviations);
            const loudness = pair(first, second, (one) => one.levels);
            const clear = (notes: Pair, byRepetition: ByRepetition) =>
              clearOfZero(overPositions(notes, corrected)) &&
              clearOfZero(overRepetitions(byRepetition, first, second, corrected));
            return {
              kind: kind.id,
              first: figuresOf(first),
              second: figuresOf(second),
              biasMs: overPositions(timing, 0.95),
              levelDb: overPositions(loudness, 0.95),
              biasStandsOut: clear(timing, deviations),
              levelStandsOut: clear(loudness, levels),
            };
          }),
        );
      });

const clearOfZero = ({ low, high }: Estimate): boolean => low !== null && high !== null && low * high > 0;
