import type { TempoMapDocument } from '../../schema/tempo';
import type { TempoMap } from '../tempo-map';

interface Piece {
  fromBeat: number;
  fromS: number;
  fromBpm: number;
  /** Change of tempo a beat. */
  slope: number;
}

/** Slopes below this are level: the logarithm would lose its digits. */
const LEVEL = 1e-9;

const timeIn = ({ fromBeat, fromS, fromBpm, slope }: Piece, beat: number): number =>
  Math.abs(slope) < LEVEL
    ? fromS + (60 / fromBpm) * (beat - fromBeat)
    : fromS + (60 / slope) * Math.log1p((slope * (beat - fromBeat)) / fromBpm);

const beatIn = ({ fromBeat, fromS, fromBpm, slope }: Piece, timeS: number): number =>
  Math.abs(slope) < LEVEL
    ? fromBeat + ((timeS - fromS) * fromBpm) / 60
    : fromBeat + (fromBpm / slope) * Math.expm1((slope * (timeS - fromS)) / 60);

/**
 * Tempos at positions, straight lines between them, level before the first and after the last. With the tempo v = v₀ + s·b, time
 * is the integral of 60/v: (60/s)·ln(1 + s·b/v₀).
 */
export const openRamp = ({ points }: Extract<TempoMapDocument, { kind: 'ramp' }>): TempoMap => {
  const first = points[0] as (typeof points)[number];
  const last = points.at(-1) as (typeof points)[number];
  const pieces: Piece[] = [{ fromBeat: first.beat, fromS: 0, fromBpm: first.bpm, slope: 0 }];
  points.forEach((point, k) => {
    const next = points[k + 1];
    const before = pieces.at(-1) as Piece;
    const slope = next ? (next.bpm - point.bpm) / (next.beat - point.beat) : 0;
    pieces.push({ fromBeat: point.beat, fromS: timeIn(before, point.beat), fromBpm: point.bpm, slope });
  });
  // The first piece is level and reaches back for ever.
  const pieceAt = (beat: number) => pieces.findLast((piece, k) => k === 0 || piece.fromBeat <= beat) as Piece;
  const zeroS = timeIn(pieceAt(0), 0);
  const timeOf = (beat: number) => timeIn(pieceAt(beat), beat) - zeroS;
  return {
    timeOf,
    beatOf(timeS) {
      const piece = pieces.findLast((one, k) => k === 0 || one.fromS <= timeS + zeroS) as Piece;
      return beatIn(piece, timeS + zeroS);
    },
    tempoAt(beat) {
      if (beat >= last.beat) return last.bpm;
      const { fromBeat, fromBpm, slope } = pieceAt(beat);
      return fromBpm + slope * (beat - fromBeat);
    },
    headlineBpm: Math.max(...points.map((point) => point.bpm)),
  };
};
