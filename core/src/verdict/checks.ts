import { makeReason } from '../schema/reason';
import type { Estimate } from '../stats/interval-estimate';
import { type Check, FAIL, PASS } from './check';
import { type Judged, spreadLimitMs, spreadUsage, unevennessLimitPct, unevennessUsage } from './judged';
import { accents, articulation, dynamics, hands, letGo, together } from './own-point-checks';

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
