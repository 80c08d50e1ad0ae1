import { median } from '../stats/summary';
import { EDGE_CHANCE, type TempoCurve } from './tempo-curve';

/** How the edge of one curve lies to that of another. */
export interface CurveComparison {
  /** The chance that the first one's edge is the faster, 0…1, by what both rest on. */
  chance: number;
  /** Its edge against the other's, in the middle and with a 90 % interval; 1 is the same. */
  ratio: number;
  low: number;
  high: number;
}

/** Compares the edges of two curves; null where one of them has none that is known. */
export const compareCurves = (one: TempoCurve, other: TempoCurve): CurveComparison | null => {
  if (!one.edge() || !other.edge()) return null;
  const [own, others] = [one.draws(EDGE_CHANCE), other.draws(EDGE_CHANCE)];
  const ratios = own
    .flatMap((bpm, k) => {
      // The cases of both are in the order of their grids: the same places must not always meet.
      const against = others[(k * 37 + 11) % others.length] ?? null;
      return bpm === null || against === null ? [] : [bpm / against];
    })
    .sort((a, b) => a - b);
  const at = (share: number) => ratios[Math.min(ratios.length - 1, Math.floor(share * ratios.length))] as number;
  return {
    chance: ratios.filter((ratio) => ratio > 1).length / ratios.length,
    ratio: median(ratios),
    low: at(0.05),
    high: at(0.95),
  };
};
