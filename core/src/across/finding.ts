import { makeReason, type Reason } from '../schema/reason';
import type { AcrossRepetitions } from './across-repetitions';
import { type Explained, type Explanation, stepOf } from './explanation';
import type { LabelDifference } from './label-differences';
import { MIN_REPETITIONS } from './usable';

/**
 * The just noticeable difference for one interval of an even sequence: 6 ms below 240 ms, 2.5 % of the interval above. Source: Friberg &
 * Sundberg, Journal of the Acoustical Society of America 98 (1995).
 */
const JND_MS = 6;
const JND_SHARE = 0.025;
export const justNoticeableMs = (stepMs: number): number => Math.max(JND_MS, JND_SHARE * stepMs);

/** Differences of level smaller than these are not worth a sentence: hardly heard. */
const HEARD_DB = 1.5;

const ends = (low: number | null, high: number | null): Reason['values'] =>
  low === null || high === null ? {} : { low, high };

/** The explanation where it could be heard: what is real but small stands in the table. */
export const heardExplanation = (explained: Explained | null, stepMs: number): Explanation | null => {
  const explanation = explained?.explanation ?? null;
  return explanation && Math.abs(explanation.byMs.value) >= justNoticeableMs(stepMs) ? explanation : null;
};

const explanationReason = ({ subject, byMs, share }: Explanation): Reason => {
  const by = { ms: byMs.value, ...ends(byMs.low, byMs.high) };
  const sharePct = Math.round(100 * share);
  switch (subject.family) {
    case 'label':
      return makeReason('finding-label-timing', { kind: subject.kind, first: subject.label, second: subject.others, ...by });
    case 'place':
      return makeReason('finding-place', { place: subject.place, of: subject.of, ...by });
    case 'step':
      return makeReason('finding-step', { note: subject.position, sharePct, ...by });
    case 'note': {
      const { note, byMs: step } = stepOf(subject.position, byMs);
      return makeReason('finding-step', { note, sharePct, ms: step.value, ...ends(step.low, step.high) });
    }
  }
};

const level = ({ kind, first, second, levelDb }: LabelDifference): Reason =>
  makeReason('finding-label-level', { kind, first: first.label, second: second.label, db: levelDb.value });

/** A habit is one where the same every time is so much of the unsteadiness (our choice). */
const HABIT_PCT = 40;

/**
 * The one thing that a take's repetitions say most clearly; words/finding-words.ts says it: where it breaks, one hand, one place in the group, one weak
 * step, a note that scatters, or an even unsteadiness. What cannot be told from chance, or could not be heard, is not said.
 */
export const findingOf = (across: AcrossRepetitions): Reason => {
  const { count, breaking, onUnevenBeats, components, explained, scattering, stepMs, labels } = across;
  if (breaking) return makeReason('finding-breaks', { ...breaking });
  if (count < MIN_REPETITIONS && onUnevenBeats > 0) return makeReason('finding-along');
  if (count < MIN_REPETITIONS || !components) return makeReason('finding-too-few', { count, needed: MIN_REPETITIONS });
  const sharePct = Math.round(100 * components.systematicShare);
  const explanation = heardExplanation(explained, stepMs);
  if (explanation) return explanationReason(explanation);
  if (scattering && scattering.sdMs >= justNoticeableMs(stepMs))
    return makeReason('finding-scatter', { note: scattering.position + 1, ms: scattering.sdMs, others: scattering.othersMs });
  const soft = labels.find(({ levelDb, levelStandsOut }) => levelStandsOut && Math.abs(levelDb.value) >= HEARD_DB);
  if (soft) return level(soft);
  const isHabit = explained?.isSystematic && sharePct >= HABIT_PCT && components.systematicSdMs >= justNoticeableMs(stepMs) / 2;
  if (isHabit) return makeReason('finding-habit', { sharePct });
  return makeReason('finding-control', { sharePct: 100 - sharePct, ms: components.randomSdMs });
};
