import { type Why, why } from '../schema/why';
import { compareCurves } from './compare-curves';
import type { TempoCurve, TempoRange } from './tempo-curve';

const rounded = (name: string, { bpm, low, high }: TempoRange) => ({
  [name]: Math.round(bpm),
  [`${name}Low`]: Math.round(low),
  [`${name}High`]: Math.round(high),
});

/** What a curve tells, sentence by sentence; `count` is how many repetitions it rests on. */
export const curveSentences = (curve: TempoCurve | null, count: number, goalBpm: number): Why[] => {
  if (!curve) return [why('curve-none', { count })];
  const [easy, edge] = [curve.easy(), curve.edge()];
  return [
    easy ? why('curve-easy', rounded('easy', easy)) : why(edge ? 'curve-no-easy' : 'curve-no-edge'),
    ...(edge ? [why('curve-edge', rounded('edge', edge))] : easy ? [why('curve-no-edge')] : []),
    ...(edge ? [why('curve-goal', { goal: goalBpm, percent: Math.round(100 * curve.cleanChance(goalBpm)) })] : []),
  ];
};

/** How two variants differ, in one sentence with the chance that it is really so; null where one of the edges is not known. */
export const variantsSentence = (
  one: { name: string; curve: TempoCurve },
  other: { name: string; curve: TempoCurve },
): Why | null => {
  const compared = compareCurves(one.curve, other.curve);
  if (!compared) return null;
  const percent = (ratio: number) => Math.round(100 * (ratio - 1));
  return why('variants-differ', {
    one: one.name,
    other: other.name,
    percent: percent(compared.ratio),
    low: percent(compared.low),
    high: percent(compared.high),
    chance: Math.min(99, Math.max(1, Math.round(100 * compared.chance))),
  });
};

/** Where the last sweep broke, as a reason to be said. */
export const breakWhy = (broke: TempoRange): Why => why('curve-break', rounded('break', broke));
