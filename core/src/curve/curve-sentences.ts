import { makeReason, type Reason } from '../schema/reason';
import { compareCurves } from './compare-curves';
import type { TempoCurve, TempoRange } from './tempo-curve';

/** A tempo and its range as the values of a sentence that speaks of it by a name. */
const rounded = <Name extends string>(name: Name, { bpm, low, high }: TempoRange) =>
  ({
    [name]: Math.round(bpm),
    [`${name}Low`]: Math.round(low),
    [`${name}High`]: Math.round(high),
  }) as Record<Name | `${Name}Low` | `${Name}High`, number>;

/** What a curve tells, sentence by sentence; `count` is how many repetitions it rests on. */
export const curveSentences = (curve: TempoCurve | null, count: number, goalBpm: number): Reason[] => {
  if (!curve) return [makeReason('curve-none', { count })];
  const [easy, edge] = [curve.easy(), curve.edge()];
  return [
    easy ? makeReason('curve-easy', rounded('easy', easy)) : makeReason(edge ? 'curve-no-easy' : 'curve-no-edge'),
    ...(edge ? [makeReason('curve-edge', rounded('edge', edge))] : easy ? [makeReason('curve-no-edge')] : []),
    ...(edge ? [makeReason('curve-goal', { goal: goalBpm, percent: Math.round(100 * curve.cleanChance(goalBpm)) })] : []),
  ];
};

/** How two variants differ, in one sentence with the chance that it is really so; null where one of the edges is not known. */
export const variantsSentence = (
  one: { name: string; curve: TempoCurve },
  other: { name: string; curve: TempoCurve },
): Reason | null => {
  const compared = compareCurves(one.curve, other.curve);
  if (!compared) return null;
  const percent = (ratio: number) => Math.round(100 * (ratio - 1));
  return makeReason('variants-differ', {
    one: one.name,
    other: other.name,
    percent: percent(compared.ratio),
    low: percent(compared.low),
    high: percent(compared.high),
    chance: Math.min(99, Math.max(1, Math.round(100 * compared.chance))),
  });
};

/** Where the last sweep broke, as a reason to be said. */
export const breakReason = (broke: TempoRange): Reason => makeReason('curve-break', rounded('break', broke));
