import { TEMPO_RANGE_BPM, type TempoMapDocument } from '../schema/tempo';

/** A tempo within the range that the app accepts: the one place where tempos are clamped. */
export const clampBpm = (bpm: number): number => Math.min(TEMPO_RANGE_BPM.max, Math.max(TEMPO_RANGE_BPM.min, bpm));

/** A tempo map with every tempo of it in range; beats that someone played are as they are. */
export const clampTempo = (tempo: TempoMapDocument): TempoMapDocument => {
  if (tempo.kind === 'constant') return { ...tempo, bpm: clampBpm(tempo.bpm) };
  if (tempo.kind === 'ramp') return { ...tempo, points: tempo.points.map((point) => ({ ...point, bpm: clampBpm(point.bpm) })) };
  return tempo;
};
