import type { Drill } from '../schema/grid';
import type { TempoMapDocument } from '../schema/tempo';
import { clampBpm } from './clamp-tempo';
import { headlineBpm } from './tempo-map';

/** The tempo map of a drill that is asked for at a tempo: where its tempo moves, it moves by shares of that tempo. */
export const drillTempo = ({ tempo: points }: Pick<Drill, 'tempo'>, asked: TempoMapDocument): TempoMapDocument => {
  if (!points) return asked;
  const bpm = headlineBpm(asked);
  const [first] = points as [(typeof points)[number]];
  if (points.length === 1) return { kind: 'constant', bpm: clampBpm(bpm * first.share) };
  return { kind: 'ramp', points: points.map(({ beat, share }) => ({ beat, bpm: clampBpm(bpm * share) })) };
};
