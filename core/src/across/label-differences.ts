import { commonMark } from '../rhythm/grid-shape';
import type { GridEvent } from '../schema/grid';
import type { NoteResult } from '../schema/measures';
import { type Estimate, sdEstimate, studentTQuantile } from '../stats/interval-estimate';
import { mean, sampleSd } from '../stats/summary';
import { centredDeviationsMs } from './position-profile';

/** A way to label notes: by hand, by finger … */
export interface LabelKind {
  id: string;
  name: string;
  labelOf(event: GridEvent): string | null;
}

/** Every way to label notes. To add one, add it here. */
export const LABEL_KINDS: readonly LabelKind[] = [
  { id: 'hand', name: 'hand', labelOf: (event) => commonMark(event, 'hand') },
  { id: 'finger', name: 'finger', labelOf: (event) => commonMark(event, 'finger') },
  { id: 'stick', name: 'stick', labelOf: (event) => commonMark(event, 'stick') },
  { id: 'stroke', name: 'stroke', labelOf: (event) => commonMark(event, 'stroke') },
  { id: 'string', name: 'string', labelOf: (event) => commonMark(event, 'string') },
];

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

interface Values {
  deviations: number[];
  levels: number[];
}

/**
 * By label: bias, spread and level of the notes that carry it, and every pair's difference. `events` are the grid's in
 * the order of the notes. Labels with fewer than five notes heard are left out.
 */
export const labelDifferences = (
  repetitions: readonly (readonly NoteResult[])[],
  events: readonly GridEvent[],
): LabelDifference[] =>
  LABEL_KINDS.flatMap((kind) => {
    const byLabel = new Map<string, Values>();
    for (const notes of repetitions) {
      const deviations = centredDeviationsMs(notes);
      const level = mean(notes.flatMap((note) => note.levelDb ?? []));
      notes.forEach((note, k) => {
        const event = events[note.index];
        const label = event ? kind.labelOf(event) : null;
        const deviation = deviations[k];
        if (label === null || deviation === null || deviation === undefined) return;
        const values = byLabel.get(label) ?? { deviations: [], levels: [] };
        values.deviations.push(deviation);
        if (note.levelDb !== null) values.levels.push(note.levelDb - level);
        byLabel.set(label, values);
      });
    }
    const labels = [...byLabel].filter(([, values]) => values.deviations.length >= 5).sort(([a], [b]) => (a < b ? -1 : 1));
    const corrected = 1 - 0.05 / Math.max(1, (labels.length * (labels.length - 1)) / 2);
    return labels.flatMap(([first, own], k) =>
      labels.slice(k + 1).map(([second, other]) => ({
        kind: kind.id,
        first: figuresOf(first, own),
        second: figuresOf(second, other),
        biasMs: welchDifference(own.deviations, other.deviations),
        levelDb: welchDifference(own.levels, other.levels),
        biasStandsOut: clearOfZero(welchDifference(own.deviations, other.deviations, corrected)),
        levelStandsOut: clearOfZero(welchDifference(own.levels, other.levels, corrected)),
      })),
    );
  });

const clearOfZero = ({ low, high }: Estimate): boolean => low !== null && high !== null && low * high > 0;

const figuresOf = (label: string, { deviations, levels }: Values): LabelFigures => ({
  label,
  count: deviations.length,
  biasMs: mean(deviations),
  spreadMs: sdEstimate(sampleSd(deviations), deviations.length),
  levelDb: levels.length ? mean(levels) : null,
});
