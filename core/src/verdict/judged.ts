import type { Drill } from '../schema/grid';
import type { Measures } from '../schema/measures';
import type { Tolerance } from '../schema/tolerance';
import type { Estimate } from '../stats/interval-estimate';
import { type ExpectedNote, shortestIntervalMs } from '../time/repetition-plan';
import { toleranceWindowMs } from './tolerance-window';

/** Windows that differ by less, as a share, are the same: a slow change of tempo makes no mixed rhythm. */
const SAME = 0.25;

/** What a check looks at. */
export interface Judged {
  measures: Measures;
  tolerance: Tolerance;
  noteCount: number;
  /** Window half-width and interval of the shortest notes, in ms: the strictest place. */
  windowMs: number;
  intervalMs: number;
  /** Whether the notes have windows of different widths. */
  isMixed: boolean;
  asksAccents: boolean;
  /** How long its notes are to sound, where the drill is about that. */
  articulation?: Drill['judging']['articulation'];
  /** False where no latency is known: placement is then relative and fails no one. */
  calibrated: boolean;
}

/** What the checks look at, of a repetition's notes and measures. */
export const judgedOf = (
  notes: readonly ExpectedNote[],
  measures: Measures,
  tolerance: Tolerance,
  calibrated: boolean,
  { articulation }: Pick<Drill['judging'], 'articulation'> = {},
): Judged => {
  const intervalMs = shortestIntervalMs(notes);
  return {
    measures,
    tolerance,
    noteCount: notes.length,
    windowMs: toleranceWindowMs(tolerance, intervalMs, notes[0]?.unsteadinessMs),
    intervalMs,
    isMixed: notes.some(
      (note) => toleranceWindowMs(tolerance, 1000 * note.intervalS) > (1 + SAME) * toleranceWindowMs(tolerance, intervalMs),
    ),
    asksAccents: notes.some((note) => note.accent),
    ...(articulation ? { articulation } : {}),
    calibrated,
  };
};

/** A standard deviation may take so much of the window, about which 19 of 20 notes then lie inside. */
const LIMIT_SHARE = 0.5;

/**
 * With fewer notes luck has more of a say: with this a player at one and a half times what is allowed is clean 3 to 4 times in 100 with 8
 * notes (docs/right.md).
 */
const FEW_NOTES = 12;
const FEW_NOTES_SHARE = 0.88;

/** The share of the window that a repetition of so many notes may take. */
export const limitShare = ({ noteCount }: Pick<Judged, 'noteCount'>): number =>
  noteCount < FEW_NOTES ? FEW_NOTES_SHARE * LIMIT_SHARE : LIMIT_SHARE;

/** What a spread may be, in ms. */
export const spreadLimitMs = (judged: Judged): number => limitShare(judged) * judged.windowMs;
export const unevennessLimitPct = (judged: Judged): number =>
  ((Math.SQRT2 * limitShare(judged) * judged.windowMs) / judged.intervalMs) * 100;

/** How much of what is allowed a figure took: of every note's own window, or where an older version measured, of the shortest. */
const usageOf = (
  judged: Judged,
  share: Estimate | null | undefined,
  figure: Estimate | null,
  limit: number,
): Estimate | null => {
  const [value, whole] = share === undefined ? [figure, limit] : [share, limitShare(judged)];
  const of = (one: number | null) => (one === null ? null : one / whole);
  return value && { value: value.value / whole, low: of(value.low), high: of(value.high) };
};

/** How much of what is allowed the spread took, and the unevenness. */
export const spreadUsage = (judged: Judged) =>
  usageOf(judged, judged.measures.spreadShare, judged.measures.spreadMs, spreadLimitMs(judged));
export const unevennessUsage = (judged: Judged) =>
  usageOf(judged, judged.measures.unevennessShare, judged.measures.unevennessPct, unevennessLimitPct(judged));

/** The same without a drag or a rush. */
export const steadyUsage = (judged: Judged): number =>
  usageOf(judged, judged.measures.steadySpreadShare, judged.measures.steadySpreadMs ?? null, spreadLimitMs(judged))?.value ??
  Number.POSITIVE_INFINITY;

/** How much of what is allowed the unsteadiness took: the larger share of spread and unevenness; null where neither has a value. */
export const toleranceUsageOf = (judged: Judged): number | null => {
  const shares = [spreadUsage(judged), unevennessUsage(judged)].flatMap((usage) => (usage ? [usage.value] : []));
  return shares.length ? Math.max(...shares) : null;
};
