import type { Measures } from '../schema/measures';
import { makeReason, type Reason } from '../schema/reason';
import type { Tolerance } from '../schema/tolerance';
import type { VerdictReason } from '../schema/verdict';
import { type ExpectedNote, shortestIntervalMs } from '../time/repetition-plan';
import { toleranceWindowMs } from './tolerance-window';

/** What a check looks at. */
export interface Judged {
  measures: Measures;
  tolerance: Tolerance;
  noteCount: number;
  /** Window half-width and interval of the shortest notes, in ms: the strictest place. */
  windowMs: number;
  intervalMs: number;
  asksAccents: boolean;
  /** False where no latency is known: placement is then relative and fails no one. */
  calibrated: boolean;
}

/** What the checks look at, of a repetition's notes and measures. */
export const judgedOf = (
  notes: readonly ExpectedNote[],
  measures: Measures,
  tolerance: Tolerance,
  calibrated: boolean,
): Judged => {
  const intervalMs = shortestIntervalMs(notes);
  return {
    measures,
    tolerance,
    noteCount: notes.length,
    windowMs: toleranceWindowMs(tolerance, intervalMs, notes[0]?.unsteadinessMs),
    intervalMs,
    asksAccents: notes.some((note) => note.accent),
    calibrated,
  };
};

/**
 * One check of the verdict. `excess` is how far over its limit the measure is, as a share of the limit: 0 or less
 * passes, up to a third is close.
 */
export interface Check {
  reason: VerdictReason;
  /** A miss here is never merely close. */
  hard: boolean;
  outcome?: 'broken' | 'not-yet';
  excess: (judged: Judged) => number;
  /** The reason with the numbers that it is told with, and with how few notes there were where the failure may owe to chance. */
  why: (judged: Judged, few: { few?: number }) => Reason;
  /** Whether chance alone could explain the failure: the figure's 95 % interval still reaches its limit. */
  mayBeChance?: (judged: Judged) => boolean;
}

const FAIL = 1;
const PASS = 0;

export const spreadLimitMs = (judged: Judged): number => judged.windowMs / 2;
export const unevennessLimitPct = (judged: Judged): number => ((Math.SQRT2 * judged.windowMs) / 2 / judged.intervalMs) * 100;

/** How much of what is allowed the unsteadiness took: the larger share of spread and unevenness; null where neither has a value. */
export const toleranceUsageOf = (judged: Judged): number | null => {
  const { spreadMs, unevennessPct } = judged.measures;
  const shares = [
    ...(spreadMs ? [spreadMs.value / spreadLimitMs(judged)] : []),
    ...(unevennessPct ? [unevennessPct.value / unevennessLimitPct(judged)] : []),
  ];
  return shares.length ? Math.max(...shares) : null;
};

const stop: Check = {
  reason: 'stop',
  hard: true,
  outcome: 'broken',
  excess: ({ measures }) => (measures.stops > 0 ? FAIL : PASS),
  why: () => makeReason('stop'),
};

const broken: Check = {
  reason: 'broken',
  hard: true,
  outcome: 'broken',
  excess: ({ measures, tolerance, noteCount }) =>
    measures.missed + measures.extra > tolerance.brokenShare * noteCount && measures.missed + measures.extra > 1 ? FAIL : PASS,
  why: ({ measures, noteCount }) => makeReason('broken', { count: measures.missed + measures.extra, of: noteCount }),
};

const wrongCounted = ({ measures, tolerance }: Judged) => (tolerance.pitchCounts ? (measures.wrongNotes ?? 0) : 0);

const notes: Check = {
  reason: 'notes',
  hard: true,
  excess: (judged) => (judged.measures.missed + judged.measures.extra + wrongCounted(judged) > 0 ? FAIL : PASS),
  why: (judged) =>
    makeReason('notes', { missed: judged.measures.missed, extra: judged.measures.extra, wrong: wrongCounted(judged) }),
};

const accuracy: Check = {
  reason: 'accuracy',
  hard: false,
  excess: ({ measures, tolerance }) => (100 - measures.accuracyPct) / (100 - tolerance.accuracyPct || 1) - 1,
  why: ({ measures, tolerance, noteCount }, few) =>
    makeReason('accuracy', {
      pct: measures.accuracyPct,
      asked: tolerance.accuracyPct,
      inside: Math.round((measures.accuracyPct * noteCount) / 100),
      of: noteCount,
      ...few,
    }),
};

const reaches = (low: number | null | undefined, limit: number) => typeof low === 'number' && low <= limit;

const spread: Check = {
  reason: 'spread',
  hard: false,
  excess: (judged) => (judged.measures.spreadMs?.value ?? 0) / spreadLimitMs(judged) - 1,
  why: (judged, few) =>
    makeReason('spread', { ms: judged.measures.spreadMs?.value ?? 0, limit: spreadLimitMs(judged), ...few }),
  mayBeChance: (judged) => reaches(judged.measures.spreadMs?.low, spreadLimitMs(judged)),
};

const unevenness: Check = {
  reason: 'unevenness',
  hard: false,
  excess: (judged) => (judged.measures.unevennessPct?.value ?? 0) / unevennessLimitPct(judged) - 1,
  why: (judged, few) =>
    makeReason('unevenness', { pct: judged.measures.unevennessPct?.value ?? 0, limit: unevennessLimitPct(judged), ...few }),
  mayBeChance: (judged) => reaches(judged.measures.unevennessPct?.low, unevennessLimitPct(judged)),
};

/** A steady drag or rush. */
export const DRIFT: Check = {
  reason: 'drift',
  hard: false,
  excess: ({ measures, tolerance }) => Math.abs(measures.driftPct ?? 0) / tolerance.driftPct - 1,
  why: ({ measures }, few) =>
    makeReason('drift', {
      pct: measures.driftPct ?? 0,
      ...(measures.steadySpreadMs ? { ms: measures.steadySpreadMs.value } : {}),
      ...few,
    }),
  mayBeChance: ({ measures: { driftRangePct: range }, tolerance: { driftPct: limit } }) =>
    !!range && range.low <= limit && range.high >= -limit,
};

const accents: Check = {
  reason: 'accents',
  hard: false,
  excess: ({ measures, tolerance, asksAccents }) =>
    asksAccents && measures.accentContrastDb !== null ? 1 - measures.accentContrastDb / tolerance.accentContrastDb : PASS,
  why: ({ measures, tolerance }, few) =>
    makeReason('accents', { db: measures.accentContrastDb ?? 0, asked: tolerance.accentContrastDb, ...few }),
};

const placement: Check = {
  reason: 'placement',
  hard: false,
  excess: ({ measures, tolerance, windowMs, calibrated }) =>
    tolerance.placementCounts && calibrated ? Math.abs(measures.placementMs?.value ?? 0) / windowMs - 1 : PASS,
  why: ({ measures }, few) => makeReason('placement', { ms: measures.placementMs?.value ?? 0, ...few }),
};

/** The checks in the order in which they give a verdict its reason. */
export const CHECKS: readonly Check[] = [stop, broken, notes, accuracy, spread, unevenness, DRIFT, accents, placement];
