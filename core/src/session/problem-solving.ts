import { type BreakingPlace, breakingPlace } from '../across/breaking-place';
import { widestStep } from '../measure/measure-repetition';
import { positionsOf } from '../rhythm/grid-shape';
import { barAt, barStarts } from '../schema/frame';
import type { Drill } from '../schema/grid';
import { makeReason, type Reason } from '../schema/reason';
import type { Repetition } from '../schema/take';
import { median } from '../stats/summary';
import { type FloorFound, unsteadyAtAnyTempo } from './slower-helps';

/**
 * So many of the last repetitions must have had the same step as their widest, the same way (our choice): among 16 steps chance alone has
 * that in less than one pause of a hundred; two of four it would have in one of ten.
 */
const [LOOKED_AT, AGREEING] = [4, 3];

/**
 * The step that goes wrong again and again in what was played last, with how far it was off there; null where none does: what was widest
 * once is no suspect.
 */
export const suspectStep = (
  repetitions: readonly Pick<Repetition, 'drill' | 'notes' | 'verdict'>[],
): { fromIndex: number; differenceMs: number } | null => {
  const drill = repetitions.at(-1)?.drill;
  const widest = repetitions
    .filter((one) => one.drill === drill && one.verdict.outcome !== 'not-judged')
    .slice(-LOOKED_AT)
    .flatMap(({ notes }) => widestStep(notes) ?? []);
  for (const { fromIndex, differenceMs } of widest) {
    const alike = widest.filter((one) => one.fromIndex === fromIndex && one.differenceMs * differenceMs > 0);
    if (alike.length >= AGREEING) return { fromIndex, differenceMs: median(alike.map((one) => one.differenceMs)) };
  }
  return null;
};

/** Where what was played last breaks off again and again, if it does. */
const breakingOf = (repetitions: readonly Repetition[], drill: Drill): BreakingPlace | null => {
  const last = repetitions.at(-1)?.drill;
  return breakingPlace(
    drill.grid,
    repetitions.filter((one) => one.drill === last),
  );
};

/** The place that a tempo does not come clean for. */
export interface HardPlace {
  /** The note whose start is unsure, from 0; never the first one. */
  note: number;
  /** The bars of the passage that it lies in, from 1. */
  bars: { fromBar: number; toBar: number };
}

/**
 * The place that a tempo does not come clean for: where it breaks again and again, else the step that goes wrong; null where neither does.
 * Its bars are the one bar where the passage was played as written; of a drill, which has bars of its own, all that it was made of.
 *
 * @param played the bars that were chosen, from 1
 */
export const hardPlace = (
  repetitions: readonly Repetition[],
  drill: Drill,
  played: { fromBar: number; toBar: number },
): HardPlace | null => {
  const barsOf = (note: number) => {
    if (drill.method.id !== 'straight' || drill.also) return played;
    const position = positionsOf(drill.grid)[note] ?? 0;
    const bar = Math.min(played.toBar, played.fromBar - 1 + barAt(barStarts(drill.grid), position));
    return { fromBar: bar, toBar: bar };
  };
  const breaking = breakingOf(repetitions, drill);
  if (breaking) return { note: Math.max(1, breaking.note), bars: barsOf(breaking.note) };
  const step = suspectStep(repetitions);
  return step && { note: step.fromIndex + 1, bars: barsOf(step.fromIndex) };
};

/** That slower does not help is told at the first pause at which it is so, and then no more. */
const newlyFound = (repetitions: readonly Repetition[]): FloorFound | null => {
  const wasTold = repetitions.some(
    ({ decision }, k) =>
      decision.action === 'problem' && k < repetitions.length - 1 && unsteadyAtAnyTempo(repetitions.slice(0, k + 1)),
  );
  return wasTold ? null : unsteadyAtAnyTempo(repetitions);
};

/**
 * The questions worth asking when a tempo will not come clean, the measured ones first. Common practice, no source.
 *
 * @param drill what was played last
 */
export const problemQuestions = (repetitions: readonly Repetition[], drill: Drill | null = null): Reason[] => {
  const breaking = drill && breakingOf(repetitions, drill);
  const step = suspectStep(repetitions);
  const measured = [
    ...(breaking ? [makeReason('ask-breaks', { bar: breaking.bar, breaks: breaking.breaks, reached: breaking.reached })] : []),
    ...(step ? [makeReason('ask-step', { note: step.fromIndex + 1, ms: step.differenceMs })] : []),
  ];
  const floor = newlyFound(repetitions);
  const slower = floor
    ? makeReason('ask-floor', { slow: floor.slowBpm, fast: floor.fastBpm, ms: floor.spreadMs })
    : makeReason('ask-smaller');
  return [...measured, slower, makeReason('ask-fingering'), makeReason('ask-movement')];
};
