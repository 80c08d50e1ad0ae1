import type { Drill, PlayAlong } from '../schema/grid';
import type { TempoMapDocument } from '../schema/tempo';
import { clampBpm } from './clamp-tempo';
import { headlineBpm } from './tempo-map';

/** The recording's own tempo over the beats that are played along with, in beats a minute: their mean. */
export const ownBpmOf = ({ timesS }: PlayAlong): number => headlineBpm({ kind: 'beats', timesS, unsteadinessMs: 0 });

/** The recording's beats at a tempo: all of it slower or faster by one share, its unsteadiness with it. */
const playAlongTempo = (playAlong: PlayAlong, bpm: number): TempoMapDocument => {
  const share = ownBpmOf(playAlong) / bpm;
  const zeroS = playAlong.timesS[0] as number;
  return {
    kind: 'beats',
    timesS: playAlong.timesS.map((timeS) => (timeS - zeroS) * share),
    unsteadinessMs: playAlong.unsteadinessMs * share,
  };
};

/**
 * The tempo map of a drill that is asked for at a tempo: where its tempo moves, it moves by shares of that tempo; where a recording is
 * played along with, the beats are the recording's.
 */
export const drillTempo = (
  { tempo: points, playAlong }: Pick<Drill, 'tempo' | 'playAlong'>,
  asked: TempoMapDocument,
): TempoMapDocument => {
  const bpm = headlineBpm(asked);
  if (playAlong) return playAlongTempo(playAlong, clampBpm(bpm));
  if (!points) return asked;
  const [first] = points as [(typeof points)[number]];
  if (points.length === 1) return { kind: 'constant', bpm: clampBpm(bpm * first.share) };
  return { kind: 'ramp', points: points.map(({ beat, share }) => ({ beat, bpm: clampBpm(bpm * share) })) };
};

/** Whether a drill's tempo only rises: a sweep. */
export const isRising = (points: Drill['tempo']): boolean =>
  points !== undefined && points.length > 1 && points.every(({ share }, k) => k === 0 || share >= (points[k - 1]?.share ?? 0));
