import type { Drill } from '../schema/grid';
import type { Measures } from '../schema/measures';
import { makeReason, type Reason } from '../schema/reason';
import type { Tolerance } from '../schema/tolerance';
import type { VerdictReason } from '../schema/verdict';
import type { Estimate } from '../stats/interval-estimate';
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

/** Windows that differ by less, as a share, are the same: a slow change of tempo makes no mixed rhythm. */
const SAME = 0.25;

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

const spreadLimitMs = (judged: Judged): number => limitShare(judged) * judged.windowMs;
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

const spreadUsage = (judged: Judged) =>
  usageOf(judged, judged.measures.spreadShare, judged.measures.spreadMs, spreadLimitMs(judged));
const unevennessUsage = (judged: Judged) =>
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

/** In a mixed rhythm every note has a limit of its own: then only how often it was taken can be said. */
const limitWords = (judged: Judged, usage: Estimate | null, limit: number) =>
  judged.isMixed ? { limit, times: usage?.value ?? 0 } : { limit };

const spread: Check = {
  reason: 'spread',
  hard: false,
  excess: (judged) => (spreadUsage(judged)?.value ?? 0) - 1,
  why: (judged, few) =>
    makeReason('spread', {
      ms: judged.measures.spreadMs?.value ?? 0,
      ...limitWords(judged, spreadUsage(judged), spreadLimitMs(judged)),
      ...few,
    }),
  mayBeChance: (judged) => reaches(spreadUsage(judged)?.low, 1),
};

const unevenness: Check = {
  reason: 'unevenness',
  hard: false,
  excess: (judged) => (unevennessUsage(judged)?.value ?? 0) - 1,
  why: (judged, few) =>
    makeReason('unevenness', {
      pct: judged.measures.unevennessPct?.value ?? 0,
      ...limitWords(judged, unevennessUsage(judged), unevennessLimitPct(judged)),
      ...few,
    }),
  mayBeChance: (judged) => reaches(unevennessUsage(judged)?.low, 1),
};

/** The notes moved at once, and were steady before and after. */
export const JUMP: Check = {
  reason: 'jump',
  hard: false,
  excess: () => PASS,
  why: ({ measures: { jump } }, few) => makeReason('jump', { note: (jump?.note ?? 0) + 1, ms: jump?.byMs ?? 0, ...few }),
};

/** A trend is clear of chance where it is so much of its 95 % interval's whole width: about its 99 % interval for a few notes. */
const CLEAR = 0.75;

/** A steady drag or rush. */
export const DRIFT: Check = {
  reason: 'drift',
  hard: false,
  // A few notes never lie on a level line: only a trend that is clear of chance is one.
  excess: ({ measures: { driftPct, driftRangePct: range }, tolerance }) =>
    range === null || (range && Math.abs(driftPct ?? 0) < CLEAR * (range.high - range.low))
      ? PASS
      : Math.abs(driftPct ?? 0) / tolerance.driftPct - 1,
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

/** Two levels are told apart from so many dB on: about one step of a dynamic (common practice, no source). */
const DYNAMIC_DB = 4;

/** Loud ones that were loud, beside soft ones that were soft. */
const dynamics: Check = {
  reason: 'dynamics',
  hard: false,
  excess: ({ measures: { dynamicDb } }) => (dynamicDb === undefined ? PASS : 1 - dynamicDb / DYNAMIC_DB),
  why: ({ measures: { dynamicDb = 0 } }, few) => makeReason('dynamics', { db: dynamicDb, asked: DYNAMIC_DB, ...few }),
};

/** Held notes that were let go: the point of holding them. */
const letGo: Check = {
  reason: 'let-go',
  hard: true,
  excess: ({ measures }) => ((measures.letGo ?? 0) > 0 ? FAIL : PASS),
  why: ({ measures }) => makeReason('let-go', { count: measures.letGo ?? 0 }),
};

/** Short notes sound up to so much of their step, connected ones at least so much, in % (our choice, no source). */
const ARTICULATION_PCT = { short: { most: 65 }, connected: { least: 85 } } as const;

const articulation: Check = {
  reason: 'articulation',
  hard: false,
  excess: ({ measures: { articulationPct: pct }, articulation: asked }) => {
    if (!asked || pct === null || pct === undefined) return PASS;
    return asked === 'short' ? pct / ARTICULATION_PCT.short.most - 1 : 1 - pct / ARTICULATION_PCT.connected.least;
  },
  why: ({ measures, articulation: asked }, few) =>
    asked === 'short'
      ? makeReason('articulation', { pct: measures.articulationPct ?? 0, most: ARTICULATION_PCT.short.most, ...few })
      : makeReason('articulation', { pct: measures.articulationPct ?? 0, least: ARTICULATION_PCT.connected.least, ...few }),
};

/** What is struck at once may come so far apart, in ms, whatever the tempo: about as far as one hand of a pianist leads (from memory, no source). */
const TOGETHER_MS = 25;

const together: Check = {
  reason: 'together',
  hard: false,
  excess: (judged) => (judged.measures.chordSpreadMs ?? 0) / TOGETHER_MS - 1,
  why: (judged, few) => makeReason('together', { ms: judged.measures.chordSpreadMs ?? 0, limit: TOGETHER_MS, ...few }),
};

const hands: Check = {
  reason: 'hands',
  hard: false,
  excess: (judged) => Math.abs(judged.measures.rightHandMs ?? 0) / TOGETHER_MS - 1,
  why: (judged, few) => makeReason('hands', { ms: judged.measures.rightHandMs ?? 0, ...few }),
};

const placement: Check = {
  reason: 'placement',
  hard: false,
  excess: ({ measures, tolerance, windowMs, calibrated }) =>
    tolerance.placementCounts && calibrated ? Math.abs(measures.placementMs?.value ?? 0) / windowMs - 1 : PASS,
  why: ({ measures }, few) => makeReason('placement', { ms: measures.placementMs?.value ?? 0, ...few }),
};

/** The checks in the order in which they give a verdict its reason. */
export const CHECKS: readonly Check[] = [
  stop,
  broken,
  notes,
  accuracy,
  spread,
  unevenness,
  DRIFT,
  accents,
  dynamics,
  letGo,
  articulation,
  hands,
  together,
  placement,
];
