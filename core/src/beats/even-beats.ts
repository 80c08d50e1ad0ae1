import type { TempoMapDocument } from '../schema/tempo';

/** Beats that lie closer to an even pulse than this are as good as a click's: the ear hears no difference. */
export const AS_EVEN_MS = 2;

/**
 * Whether a repetition was played to beats that are even, a click's or a recording's. To others the same step may be too long every time
 * because the recording's is.
 */
export const isOnEvenBeats = ({ tempo }: { tempo: TempoMapDocument }): boolean =>
  tempo.kind !== 'beats' || tempo.unsteadinessMs < AS_EVEN_MS;
