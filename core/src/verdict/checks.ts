import type { Measures } from '../schema/measures';
import type { Reason } from '../schema/verdict';
import type { Tolerance } from './tolerance';

/** What a check looks at. */
export interface Judged {
  measures: Measures;
  tolerance: Tolerance;
  noteCount: number;
  /** Window half-width and interval of the exercise's shortest notes, in ms: the strictest place. */
  windowMs: number;
  intervalMs: number;
  asksAccents: boolean;
  /** False where no latency is known: placement is then relative and fails no one. */
  calibrated: boolean;
}

/**
 * One check of the verdict. `excess` is how far over its limit the measure is, as a share of the limit: 0 or less
 * passes, up to a third is close.
 */
export interface Check {
  reason: Reason;
  /** A miss here is never merely close. */
  hard: boolean;
  outcome?: 'broken' | 'not-yet';
  excess: (judged: Judged) => number;
  sentence: (judged: Judged) => string;
  /** Whether chance alone could explain the failure: the figure's 95 % interval still reaches its limit. */
  mayBeChance?: (judged: Judged) => boolean;
}

const FAIL = 1;
const PASS = 0;
const count = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;
const ms = (value: number | undefined) => `${(value ?? 0).toFixed(1)} ms`;

export const spreadLimitMs = (judged: Judged): number => judged.windowMs / 2;
export const unevennessLimitPct = (judged: Judged): number => ((Math.SQRT2 * judged.windowMs) / 2 / judged.intervalMs) * 100;

const stop: Check = {
  reason: 'stop',
  hard: true,
  outcome: 'broken',
  excess: ({ measures }) => (measures.stops > 0 ? FAIL : PASS),
  sentence: () => 'The playing stopped on the way.',
};

const broken: Check = {
  reason: 'broken',
  hard: true,
  outcome: 'broken',
  excess: ({ measures, tolerance, noteCount }) =>
    measures.missed + measures.extra > tolerance.brokenShare * noteCount && measures.missed + measures.extra > 1 ? FAIL : PASS,
  sentence: ({ measures, noteCount }) =>
    `${count(measures.missed + measures.extra, 'note', 'notes')} of ${noteCount} missed or added.`,
};

const wrongCounted = ({ measures, tolerance }: Judged) => (tolerance.pitchCounts ? (measures.wrongNotes ?? 0) : 0);

const notes: Check = {
  reason: 'notes',
  hard: true,
  excess: (judged) => (judged.measures.missed + judged.measures.extra + wrongCounted(judged) > 0 ? FAIL : PASS),
  sentence: (judged) =>
    [
      judged.measures.missed ? `${count(judged.measures.missed, 'note', 'notes')} missed` : '',
      judged.measures.extra ? `${count(judged.measures.extra, 'note', 'notes')} too many` : '',
      wrongCounted(judged) ? `${count(wrongCounted(judged), 'wrong note', 'wrong notes')}` : '',
    ]
      .filter(Boolean)
      .join(' and ')
      .concat('.'),
};

const accuracy: Check = {
  reason: 'accuracy',
  hard: false,
  excess: ({ measures, tolerance }) => (100 - measures.accuracyPct) / (100 - tolerance.accuracyPct || 1) - 1,
  sentence: ({ measures, tolerance }) =>
    `${Math.round(measures.accuracyPct)} % of the notes fell inside the window; ${tolerance.accuracyPct} % are asked.`,
};

const reaches = (low: number | null | undefined, limit: number) => typeof low === 'number' && low <= limit;

const spread: Check = {
  reason: 'spread',
  hard: false,
  excess: (judged) => (judged.measures.spreadMs?.value ?? 0) / spreadLimitMs(judged) - 1,
  sentence: (judged) =>
    `The notes wobble by ${ms(judged.measures.spreadMs?.value)}; up to ${ms(spreadLimitMs(judged))} is asked.`,
  mayBeChance: (judged) => reaches(judged.measures.spreadMs?.low, spreadLimitMs(judged)),
};

const unevenness: Check = {
  reason: 'unevenness',
  hard: false,
  excess: (judged) => (judged.measures.unevennessPct?.value ?? 0) / unevennessLimitPct(judged) - 1,
  sentence: (judged) =>
    `The steps differ by ${(judged.measures.unevennessPct?.value ?? 0).toFixed(1)} %; up to ${unevennessLimitPct(judged).toFixed(1)} % is asked.`,
  mayBeChance: (judged) => reaches(judged.measures.unevennessPct?.low, unevennessLimitPct(judged)),
};

const drift: Check = {
  reason: 'drift',
  hard: false,
  excess: ({ measures, tolerance }) => Math.abs(measures.driftPct ?? 0) / tolerance.driftPct - 1,
  sentence: ({ measures }) =>
    `The notes ${(measures.driftPct ?? 0) < 0 ? 'ran ahead of' : 'fell behind'} the click by ${Math.abs(measures.driftPct ?? 0).toFixed(1)} % of the tempo.`,
};

const accents: Check = {
  reason: 'accents',
  hard: false,
  excess: ({ measures, tolerance, asksAccents }) =>
    asksAccents && measures.accentContrastDb !== null ? 1 - measures.accentContrastDb / tolerance.accentContrastDb : PASS,
  sentence: ({ measures, tolerance }) =>
    `The accents stand out by ${(measures.accentContrastDb ?? 0).toFixed(1)} dB; ${tolerance.accentContrastDb} dB are asked.`,
};

const placement: Check = {
  reason: 'placement',
  hard: false,
  excess: ({ measures, tolerance, windowMs, calibrated }) =>
    tolerance.placementCounts && calibrated ? Math.abs(measures.placementMs?.value ?? 0) / windowMs - 1 : PASS,
  sentence: ({ measures }) =>
    `The playing lies ${ms(Math.abs(measures.placementMs?.value ?? 0))} ${(measures.placementMs?.value ?? 0) < 0 ? 'ahead of' : 'behind'} the click.`,
};

/** The checks in the order in which they give a verdict its reason. */
export const CHECKS: readonly Check[] = [stop, broken, notes, accuracy, spread, unevenness, drift, accents, placement];
