import { type AwkwardTempo, awkwardTempo } from '../curve/awkward-tempo';
import { sweptNotes } from '../curve/swept-notes';
import { positionsOf } from '../rhythm/grid-shape';
import { makeReason, type Reason } from '../schema/reason';
import type { GridRepetitions } from './across-repetitions';
import { usableRepetitions } from './usable';

/** The tempo at which repetitions that went from slow to fast and back were less even than around it; null where none was. */
export const awkwardInArcs = ({ grid, repetitions }: GridRepetitions): AwkwardTempo | null => {
  const positions = positionsOf(grid);
  const arcs = usableRepetitions(repetitions).filter(({ tempo }) => tempo.kind === 'ramp');
  return awkwardTempo(
    arcs.map(({ notes }) => {
      const expected = notes.map(({ index, expectedS }) => ({ index, timeS: expectedS, beat: positions[index] as number }));
      return sweptNotes(notes, expected);
    }),
  );
};

/** That tempo as a reason that words/finding-words.ts says. */
export const awkwardReason = ({ bpm, low, high, times }: AwkwardTempo): Reason =>
  makeReason('finding-awkward', { bpm: Math.round(bpm), low: Math.round(low), high: Math.round(high), times });
