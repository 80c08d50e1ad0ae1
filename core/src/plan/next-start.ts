import { USUAL_GROWTH_A_TENTH } from '../curve/usual-growth';
import type { Measures } from '../schema/measures';
import { makeReason } from '../schema/reason';
import type { Repetition } from '../schema/take';
import { clampBpm } from '../time/clamp-tempo';
import { notchesFrom, TRADITIONAL_MARKS } from '../time/marks';
import { askedBpm } from './asked-bpm';
import { SLOW_FLOOR_BPM, type StartTempo } from './start-tempo';

/** What of a repetition says where to begin next time. */
export type JudgedRepetition = Pick<Repetition, 'tempo' | 'askedBpm' | 'verdict' | 'ease'> & {
  measures: Pick<Measures, 'toleranceUsage'>;
};

const NOTCHES = 2;
const LAST_MARK = TRADITIONAL_MARKS.at(-1) as number;
/** Beyond the marks, and in place of notches that are wider. */
const SHARE_UNDER = 0.05;

/** It goes down by a little at least, and by half at most. */
const [MIN_SHARE, MAX_SHARE] = [0.05, 0.5];
/** What came apart has no unsteadiness to go by. */
const APART_SHARE = 0.2;

/**
 * The share of a tempo by which to go down so that an unsteadiness of so many times what is allowed would just be allowed, 0…1. `toleranceUsage` is
 * null where the playing came apart.
 */
export const shareToClean = (toleranceUsage: number | null): number => {
  if (toleranceUsage === null) return APART_SHARE;
  const tenths = Math.log(Math.max(1, toleranceUsage)) / Math.log(USUAL_GROWTH_A_TENTH);
  return Math.min(MAX_SHARE, Math.max(MIN_SHARE, 0.1 * tenths));
};

const feltGood = ({ ease }: JudgedRepetition) => ease !== 'tense' && ease !== 'pain';

/** A little under a tempo: two notches, or 5 % where there are no marks. */
const under = (bpm: number): number =>
  bpm > LAST_MARK ? Math.round(bpm * (1 - SHARE_UNDER)) : Math.max(Math.min(SLOW_FLOOR_BPM, bpm), notchesFrom(bpm, -NOTCHES));

/** Where nothing was clean: the tempo at which it probably would be, by the slowest that was tried. */
const whereClean = (judged: readonly JudgedRepetition[]): number => {
  const slowest = Math.min(...judged.map(askedBpm));
  const shares = judged
    .filter((one) => askedBpm(one) === slowest)
    .map(({ measures, verdict }) => shareToClean(verdict.outcome === 'broken' ? null : (measures.toleranceUsage ?? null)));
  const bpm = Math.round(slowest * (1 - Math.min(...shares)));
  return Math.max(Math.min(SLOW_FLOOR_BPM, slowest - 1), bpm);
};

/**
 * Where to begin next time: a little under the fastest tempo that was clean and not tense, never above it; not under a start that was
 * mostly clean itself, so that little practice does not make it sink; with nothing clean, where it probably would be.
 */
export const nextStart = (repetitions: readonly JudgedRepetition[], goalBpm: number, startBpm: number): StartTempo => {
  const judged = repetitions.filter(({ verdict }) => verdict.outcome !== 'not-judged');
  if (judged.length === 0) return { bpm: startBpm, why: makeReason('start-again', { bpm: startBpm }) };
  const clean = judged.filter((one) => one.verdict.outcome === 'clean' && feltGood(one)).map(askedBpm);
  if (clean.length === 0) {
    const bpm = clampBpm(Math.min(goalBpm, whereClean(judged)));
    return { bpm, why: makeReason('start-none-clean', { bpm }) };
  }
  const best = Math.max(...clean);
  const little = under(best);
  const atStart = judged.filter((one) => askedBpm(one) === startBpm).length;
  const isCleanAtStart = 2 * clean.filter((bpm) => bpm === startBpm).length > atStart;
  const kept = isCleanAtStart ? startBpm : 0;
  const bpm = clampBpm(Math.min(best, Math.max(little, kept)));
  if (bpm > goalBpm) return { bpm: goalBpm, why: makeReason('start-goal') };
  if (kept > little) return { bpm, why: makeReason('start-kept', { bpm }) };
  if (best > LAST_MARK) return { bpm, why: makeReason('start-share-under', { best }) };
  return {
    bpm,
    why: bpm === notchesFrom(best, -NOTCHES) ? makeReason('start-under-clean', { best }) : makeReason('start-floor', { bpm }),
  };
};
