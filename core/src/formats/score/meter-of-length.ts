import { greatest, rollup } from 'd3-array';
import { beats, type Exact } from '../../schema/beats';
import type { ScoreBar } from './score';

/** A length as a time signature, or null where none says it. */
export const asMeter = (length: Exact): { count: number; unit: 1 | 2 | 4 | 8 | 16 | 32 } | null => {
  for (const unit of [4, 8, 16, 32] as const) {
    const count = length.mul(unit);
    if (count.d === 1n && count.compare(1) >= 0 && count.compare(32) <= 0) return { count: Number(count.n), unit };
  }
  return null;
};

/** The meter of bars before any time signature; a bar of which nothing is written is as long. */
export const UNSIGNED: ScoreBar['meter'] = { count: 4, unit: 4 };

/** Bars that no time signature stands before, as chants and exercises often have them, with the meter that most of them are as long as. */
export const withMeterOfLengths = (bars: readonly ScoreBar[]): ScoreBar[] => {
  const counts = rollup(
    bars.filter(({ meter, notes }) => meter === UNSIGNED && notes.length > 0),
    (own) => own.length,
    ({ length }) => length.toFraction(),
  );
  const [commonest] = greatest(counts, ([, count]) => count) ?? [];
  const meter = commonest === undefined ? null : asMeter(beats(commonest));
  if (!meter) return [...bars];
  return bars.map((bar) => {
    if (bar.meter !== UNSIGNED) return bar;
    return { ...bar, meter, length: bar.notes.length > 0 ? bar.length : beats(`${meter.count}/${meter.unit}`) };
  });
};
