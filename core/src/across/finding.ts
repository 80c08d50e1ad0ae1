import { makeReason, type Reason } from '../schema/reason';
import type { AcrossRepetitions } from './across-repetitions';
import type { LabelDifference } from './label-differences';
import { MIN_REPETITIONS } from './usable';
import type { Link } from './weak-links';

/** Differences smaller than these are not worth a sentence: below what is heard. */
const HEARD_MS = 4;
const HEARD_DB = 1.5;

/** The weak step that stands out and can be heard to: the weakest, of links that come weakest first. */
export const weakestHeard = (links: readonly Link[]): Link | undefined =>
  links.find(({ standsOut, biasMs }) => standsOut && Math.abs(biasMs.value) >= HEARD_MS);

const ends = (low: number | null, high: number | null): Reason['values'] =>
  low === null || high === null ? {} : { low, high };

const timing = ({ kind, first, second, biasMs }: LabelDifference): Reason =>
  makeReason('finding-label-timing', {
    kind,
    first: first.label,
    second: second.label,
    ms: biasMs.value,
    ...ends(biasMs.low, biasMs.high),
  });

const level = ({ kind, first, second, levelDb }: LabelDifference): Reason =>
  makeReason('finding-label-level', { kind, first: first.label, second: second.label, db: levelDb.value });

/**
 * The one thing that a take's repetitions say most clearly; words/finding-words.ts says it: one weak step, one hand, or
 * an even unsteadiness. What cannot be told from chance is not said.
 */
export const findingOf = ({ count, onUnevenBeats, components, links, labels }: AcrossRepetitions): Reason => {
  if (count < MIN_REPETITIONS && onUnevenBeats > 0) return makeReason('finding-along');
  if (count < MIN_REPETITIONS || !components) return makeReason('finding-too-few', { count, needed: MIN_REPETITIONS });
  const sharePct = Math.round(100 * components.systematicShare);
  const weakest = weakestHeard(links);
  if (weakest) {
    const { value, low, high } = weakest.biasMs;
    return makeReason('finding-step', { sharePct, note: weakest.from + 1, ms: value, ...ends(low, high) });
  }
  const uneven = labels.find(({ biasMs, biasStandsOut }) => biasStandsOut && Math.abs(biasMs.value) >= HEARD_MS);
  if (uneven) return timing(uneven);
  const soft = labels.find(({ levelDb, levelStandsOut }) => levelStandsOut && Math.abs(levelDb.value) >= HEARD_DB);
  if (soft) return level(soft);
  if (sharePct >= 40) return makeReason('finding-habit', { sharePct });
  return makeReason('finding-control', { sharePct: 100 - sharePct, ms: components.randomSdMs });
};
