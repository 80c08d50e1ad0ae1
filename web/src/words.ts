import type { AttackFault, Estimate } from '@isochron/core/analysis';
import { headlineBpm } from '@isochron/core/material';
import type { TempoMapDocument } from '@isochron/core/schema';
import { bpmWords } from '@isochron/core/words';
import type { StripRepetition, Stroke } from './strip/strip-layout';

/** Whole minutes of a time in seconds. */
export const minutes = (seconds: number): number => Math.round(seconds / 60);

/** A tempo without needless decimals. */
export const bpm = bpmWords;

/** The tempo by which a map is named. */
export const tempoWords = (tempo: TempoMapDocument): string => bpm(headlineBpm(tempo));

/** The tempos over which a moving one goes; null for one that stays. */
export const spanWords = (tempo: TempoMapDocument | undefined): string | null => {
  if (tempo?.kind !== 'ramp') return null;
  const [first, last] = [tempo.points[0]?.bpm ?? 0, tempo.points.at(-1)?.bpm ?? 0];
  // An arc is named by its top, which is where it leads.
  const top = Math.max(...tempo.points.map((point) => point.bpm));
  return `${Math.round(first)}–${Math.round(last === first ? top : last)}`;
};

/** A figure in one decimal with its unit; a dash where there is none. */
export const figure = (value: number | null | undefined, unit: string, digits = 1): string =>
  value === null || value === undefined ? '–' : `${value.toFixed(digits)}\u00a0${unit}`;

/** A measure with its unit; one of which no more than its upper end is known says that. */
export const estimateWords = (estimate: Estimate | null | undefined, unit: string): string =>
  estimate?.value === 0 && estimate.high ? `up to ${figure(estimate.high, unit)}` : figure(estimate?.value, unit);

/** A figure with its sign: late and up are plus, early and down are minus. */
export const signed = (value: number | null | undefined, digits = 1): string => {
  if (value === null || value === undefined) return '–';
  const size = Math.abs(value).toFixed(digits);
  // What rounds to nothing has no sign.
  return `${Number(size) === 0 ? '' : value > 0 ? '+' : '−'}${size}`;
};

/** A signed deviation in words: "12 ms late". */
export const deviationWords = (ms: number | null): string => {
  if (ms === null) return 'missed';
  const rounded = Math.abs(ms).toFixed(1);
  return ms < 0 ? `${rounded} ms early` : `${rounded} ms late`;
};

/** How a note spoke, where that was out of the ordinary. */
const FAULT_WORDS: Record<AttackFault['kind'], (size: number) => string> = {
  doubled: (ms) => `spoke twice, ${ms.toFixed(0)} ms apart`,
  ghosted: (db) => `hardly sounded, ${db.toFixed(0)} dB under the others`,
  died: (db) => `ended early, ${db.toFixed(0)} dB farther down than the others`,
  overlapping: (ms) => `held ${ms.toFixed(0)} ms over the next`,
};

/** What a stroke says when it is hovered or focused. */
export const strokeWords = (repetition: StripRepetition, stroke: Stroke): string => {
  const note = repetition.notes[stroke.index];
  const level = note?.levelDb == null ? '' : `, ${note.levelDb.toFixed(0)} dB`;
  const spoke = stroke.faults.map(({ kind, size }) => `, ${FAULT_WORDS[kind](size)}`).join('');
  const doubt = stroke.isUnsure ? ', not heard for certain' : '';
  return `Note ${stroke.index + 1} at ${tempoWords(repetition.tempo)}: ${deviationWords(stroke.shownMs)}${level}${spoke}${doubt}`;
};

/** The range that a figure is known to, in brackets; empty where it is not known. */
export const rangeWords = (estimate: Estimate | null): string =>
  estimate?.low == null || estimate.high == null || estimate.value === 0
    ? ''
    : ` (${estimate.low.toFixed(1)}–${estimate.high.toFixed(1)})`;
