import { TEMPO_RANGE_BPM, type TempoMapDocument } from '../schema/tempo';

/** A tempo within the range that the app accepts: the one place where tempos are clamped. */
export const clampBpm = (bpm: number): number => Math.min(TEMPO_RANGE_BPM.max, Math.max(TEMPO_RANGE_BPM.min, bpm));

/** A tempo map with every tempo of it in range. */
export const clampTempo = (tempo: TempoMapDocument): TempoMapDocument =>
  tempo.kind === 'constant'
    ? { ...tempo, bpm: clampBpm(tempo.bpm) }
    : { ...tempo, points: tempo.points.map((point) => ({ ...point, bpm: clampBpm(point.bpm) })) };
