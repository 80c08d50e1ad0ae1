import type { TempoMapDocument } from '../schema/tempo';
import { openBeats } from './tempo-maps/beats';
import { openConstant } from './tempo-maps/constant';
import { openRamp } from './tempo-maps/ramp';

/** How beats and seconds belong together. Beats count from the first downbeat, seconds from its moment. */
export interface TempoMap {
  timeOf(beat: number): number;
  beatOf(timeS: number): number;
  /** Beats per minute at a position. */
  tempoAt(beat: number): number;
  /** The tempo by which a repetition at this map is named: its fastest. */
  headlineBpm: number;
}

type Openers = { [Kind in TempoMapDocument['kind']]: (document: Extract<TempoMapDocument, { kind: Kind }>) => TempoMap };

/** Every kind of tempo map. To add one: write its file, its schema in schema/tempo.ts, and add it here. */
const OPENERS: Openers = { constant: openConstant, ramp: openRamp, beats: openBeats };

/** Opens a stored tempo map. */
export const openTempo = (document: TempoMapDocument): TempoMap =>
  (OPENERS[document.kind] as (document: TempoMapDocument) => TempoMap)(document);

/** One tempo throughout. */
export const constantTempo = (bpm: number): TempoMapDocument => ({ kind: 'constant', bpm });

/** The tempo by which a map is named. */
export const headlineBpm = (document: TempoMapDocument): number => openTempo(document).headlineBpm;
